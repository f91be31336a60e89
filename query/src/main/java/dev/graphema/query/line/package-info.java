/**
 * Single lines of logs: splitting bytes into lines, excluding lines without reading them, and reading the forms of
 * events. Entry points: {@link dev.graphema.query.line.LineReader} and {@link dev.graphema.query.line.JsonLine}.
 *
 * <p>The package depends on events and conditions, and not on files or questions.
 */
package dev.graphema.query.line;
