/**
 * Background threads, and the pauses between their attempts. Entry point: {@link dev.graphema.background.BackgroundThreads}. The package depends only on the
 * JDK.
 */
package dev.graphema.background;
