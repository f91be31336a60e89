/**
 * Questions about events, as values. {@link dev.graphema.query.Question} begins one; {@link dev.graphema.query.Ask} lists
 * what can be asked; {@link dev.graphema.query.source.QueryExecutor} answers it over an {@link
 * dev.graphema.query.source.EventSource}.
 *
 * <p>The packages below: {@code answer} has the answers, {@code row} what sources read, {@code partial} how answers are
 * computed and merged, {@code source} the contract of sources and the executor, {@code json} the JSON form of questions
 * and answers.
 */
package dev.graphema.query;
