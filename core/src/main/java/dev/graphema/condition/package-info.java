/**
 * The condition language: one way to ask something of an event, for routes, sampling and finding alike. Entry point:
 * {@link dev.graphema.condition.Condition}.
 *
 * <p>A text goes through a lexer and a parser into an {@link dev.graphema.condition.Expression}, a plain tree that can be
 * printed, walked and translated; that is compiled once into what is asked of every event. The package knows events, and
 * nothing of where conditions are used.
 */
package dev.graphema.condition;
