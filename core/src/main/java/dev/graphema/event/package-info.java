/**
 * What an event is: level, fields, failure and correlation as one immutable snapshot. Entry point: {@link
 * dev.graphema.event.Event}.
 *
 * <p>Everything else in Graphema is built on this package; it knows none of the rest.
 */
package dev.graphema.event;
