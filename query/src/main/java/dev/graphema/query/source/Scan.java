package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.query.Window;
import dev.graphema.query.row.Projection;

/**
 * What is read of a source. Immutable.
 *
 * @param where the condition for events
 * @param during the window for events, which the source may ignore
 * @param projection the values of events; a source may read more
 * @param isInOrder whether the rows of each part must be in the order of time
 */
public record Scan(Condition where, Window during, Projection projection, boolean isInOrder) {}
