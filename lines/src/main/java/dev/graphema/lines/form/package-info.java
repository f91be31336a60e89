/**
 * The forms of lines: Graphema JSON, JSON of other programs, RFC 5424, {@code key=value}, and user-defined patterns. Entry
 * points: {@link dev.graphema.lines.form.JsonLine} and {@link dev.graphema.lines.form.TextLine}.
 */
package dev.graphema.lines.form;
