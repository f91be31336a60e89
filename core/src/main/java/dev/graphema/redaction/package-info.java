/**
 * Redaction of events on the thread that emits them. Entry point: {@link dev.graphema.redaction.Redactor}. The package
 * depends on events.
 */
package dev.graphema.redaction;
