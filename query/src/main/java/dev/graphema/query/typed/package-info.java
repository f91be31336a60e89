/**
 * Questions as people type them: {@link dev.graphema.query.typed.TypedQuestion} reads a condition and the options of the command,
 * {@link dev.graphema.query.typed.TypedWindow} the options for the window, {@link dev.graphema.query.typed.TimeWords} times.
 * Knows nothing of commands or pages.
 */
package dev.graphema.query.typed;
