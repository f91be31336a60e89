/**
 * Lines of text as a source of events: {@link dev.graphema.lines.LineFiles} reads and follows files and folders, {@link
 * dev.graphema.lines.LineStream} a stream. {@link dev.graphema.lines.LeakCheck} searches files for unredacted secrets.
 *
 * <p>The packages below: {@code form} reads single lines in the forms of Graphema and other programs, {@code json}
 * divides bytes into lines, and excludes and partly reads those in Graphema JSON.
 */
package dev.graphema.lines;
