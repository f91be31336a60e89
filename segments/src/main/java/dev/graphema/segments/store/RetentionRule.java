package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import java.time.Duration;
import java.util.Objects;

/**
 * How long events are kept. Immutable.
 *
 * @param when which events: those that no rule before it matches and that match this condition
 * @param keep how long, from the time of the event on; null for no limit
 * @param total the most bytes that they may have in segments, the oldest are deleted first; {@link Long#MAX_VALUE} for no limit
 */
public record RetentionRule(Condition when, Duration keep, long total) {
    public RetentionRule {
        Objects.requireNonNull(when, "when");
    }

    @Override
    public String toString() {
        return when.isEverything() ? "all other events" : when.toString();
    }
}
