/**
 * The front door: {@link dev.graphema.Logger} to say events, {@link dev.graphema.Context}, {@link
 * dev.graphema.Correlation} and {@link dev.graphema.Operation} to say where they belong, and {@link dev.graphema.Graphema}
 * to start and end a runtime that takes them.
 *
 * <p>This package puts the others together; none of them knows it.
 */
package dev.graphema;
