/**
 * Says what becomes of an event, and why: by the settings alone, without anything being opened or written. Entry points:
 * {@link dev.graphema.explain.Explainer} for one event, {@link dev.graphema.explain.Review} for a whole settings file.
 *
 * <p>The package asks the same thresholds, rules and conditions that decide in a running program; it repeats none of them.
 */
package dev.graphema.explain;
