/** The log of unsealed events: batches of lines with checksums. */
package dev.graphema.segments.log;
