/**
 * What Graphema costs, measured beside what the machine allows in the same run: only the ratios mean something. Entry point: {@link
 * dev.graphema.benchmarks.Main}. No test decides by any of it.
 */
package dev.graphema.benchmarks;
