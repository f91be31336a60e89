/**
 * The condition language, which routes, sampling, hold-back and searches share. Entry point: {@link
 * dev.graphema.condition.Condition}.
 *
 * <p>A lexer and a parser turn a text into an {@link dev.graphema.condition.Expression}, a syntax tree that is printed as it was
 * written. It is resolved into a {@link dev.graphema.condition.Resolved}, in which all rules of the language are explicit. Predicates,
 * explanations and the conditions of other systems are folds over that tree; {@link dev.graphema.condition.Split} divides it into what
 * such a system can decide and what remains. The package depends on events only.
 */
package dev.graphema.condition;
