/** Values of one kind, encoded together. */
package dev.graphema.segments.column;
