/**
 * A whole morning of Skerry Line as log files, the same each time: written by a script in moments, where the services of the demo run for real.
 * Entry point: {@link dev.graphema.examples.day.Day}.
 */
package dev.graphema.examples.day;
