/** The blocks of a segment, with checksums, and its directory. */
package dev.graphema.segments.file;
