/**
 * A complete morning of Skerry Line as log files, always the same: written by a script within moments, whereas the
 * services of the demo really run. Entry point: {@link dev.graphema.examples.day.Day}.
 */
package dev.graphema.examples.day;
