/**
 * Events: level, fields, failure and correlation as immutable values. Entry point: {@link dev.graphema.event.Event}.
 *
 * <p>All other packages depend on this one; it depends only on the failure policy.
 */
package dev.graphema.event;
