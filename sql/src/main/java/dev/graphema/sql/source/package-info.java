/** Tables of databases as a source of events: conditions and counts as SQL. */
package dev.graphema.sql.source;
