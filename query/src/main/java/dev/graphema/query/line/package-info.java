/**
 * One line of a log at a time: cutting bytes into lines, ruling lines out without reading them, and reading the forms in which programs write
 * events. Entry points: {@link dev.graphema.query.line.LineReader} and {@link dev.graphema.query.line.AnyLine}.
 *
 * <p>The package knows events and conditions, and neither files nor questions.
 */
package dev.graphema.query.line;
