/**
 * Taking secrets out of events before they leave the thread that said them. Entry point: {@link
 * dev.graphema.redaction.Redactor}. The package knows events.
 */
package dev.graphema.redaction;
