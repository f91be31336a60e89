/**
 * Explains how events are processed by settings, without opening or writing anything. Entry points: {@link
 * dev.graphema.explain.Explainer} for one event, {@link dev.graphema.explain.Review} for a settings file.
 *
 * <p>The package evaluates the same thresholds, rules and conditions as a running program.
 */
package dev.graphema.explain;
