/**
 * Answers to questions, as immutable values. {@link dev.graphema.query.answer.Answer} lists them; each states its {@link
 * dev.graphema.query.answer.Coverage}.
 */
package dev.graphema.query.answer;
