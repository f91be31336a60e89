/**
 * Benchmarks with lower bounds of the same machine in the same run; only the ratios are comparable. Entry point: {@link
 * dev.graphema.benchmarks.Main}. No test depends on them.
 */
package dev.graphema.benchmarks;
