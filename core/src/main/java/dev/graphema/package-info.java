/**
 * The API: {@link dev.graphema.Logger} emits events, {@link dev.graphema.Context}, {@link dev.graphema.Correlation} and {@link
 * dev.graphema.Operation} describe what they belong to, and {@link dev.graphema.Graphema} starts and closes a runtime.
 *
 * <p>This package combines all other packages; none of them depends on it.
 */
package dev.graphema;
