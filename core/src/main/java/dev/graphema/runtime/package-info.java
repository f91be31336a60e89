/**
 * A running Graphema: {@link dev.graphema.runtime.Engine} assembles the pipeline from settings, applies changes, and ends;
 * {@link dev.graphema.runtime.LoggerTree} has the loggers and their thresholds.
 */
package dev.graphema.runtime;
