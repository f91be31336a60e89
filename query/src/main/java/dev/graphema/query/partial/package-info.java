/**
 * How answers are computed: {@link dev.graphema.query.partial.Partial} parts of answers, which are filled from rows and
 * merged. {@link dev.graphema.query.partial.Aggregation} selects the one for a question.
 */
package dev.graphema.query.partial;
