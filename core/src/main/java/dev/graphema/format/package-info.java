/**
 * Formats of events. Entry point: {@link dev.graphema.format.Format}; implementations include {@link
 * dev.graphema.format.JsonLines} for programs and {@link dev.graphema.format.Columns} for people.
 *
 * <p>Formats convert events into bytes and do not depend on destinations.
 */
package dev.graphema.format;
