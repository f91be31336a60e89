/**
 * Lines in Graphema JSON: {@link dev.graphema.lines.json.LineReader} divides bytes into lines, {@link
 * dev.graphema.lines.json.LineFilter} excludes lines without reading them, and {@link
 * dev.graphema.lines.json.ProjectedLine} reads only some of their values.
 */
package dev.graphema.lines.json;
