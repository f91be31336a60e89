/** Events as rows of values, of which a source reads no more than a question needs. */
package dev.graphema.query.row;
