/**
 * Events: level, fields, failure and correlation as immutable values. Entry point: {@link dev.graphema.event.Event}. A
 * {@link dev.graphema.event.Draft} creates one; {@link dev.graphema.event.EventBytes} and {@link
 * dev.graphema.event.EventRecord} are its binary form.
 *
 * <p>All other packages depend on this one; it depends only on the failure policy.
 */
package dev.graphema.event;
