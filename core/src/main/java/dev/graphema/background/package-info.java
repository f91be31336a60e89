/**
 * Threads of Graphema's own. Entry point: {@link dev.graphema.background.BackgroundThreads}. The package depends on the JDK
 * alone.
 */
package dev.graphema.background;
