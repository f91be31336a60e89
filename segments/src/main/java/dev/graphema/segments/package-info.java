/**
 * Events in columns: {@link dev.graphema.segments.SegmentWriter} writes lines into a segment, an immutable file, and {@link
 * dev.graphema.segments.SegmentFiles} answers questions about segments. docs/segments.md describes the form of the file.
 *
 * <p>The packages below: {@code line} divides lines into what recurs and their values, {@code column} encodes values, {@code
 * file} writes and reads the blocks of a file, {@code log} writes and reads batches of lines, {@code store} keeps both in a folder.
 */
package dev.graphema.segments;
