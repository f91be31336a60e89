/**
 * What Graphema does when code throws: one policy for callers' threads, sinks' threads and background threads. Entry point:
 * {@link dev.graphema.failure.FailurePolicy}.
 *
 * <p>The package depends on the JDK alone and contains no state.
 */
package dev.graphema.failure;
