package dev.graphema.sampling;

import dev.graphema.condition.Condition;
import java.util.Objects;

/**
 * Of the events for which the condition holds, one in so many is kept.
 *
 * @param when which events are thinned
 * @param oneIn how many events one kept event stands for; 1 keeps them all
 * @param together whether all events of a trace share one fate, here and in every service with the same rule; events
 *     without a trace are thinned one by one
 */
public record SamplingRule(Condition when, long oneIn, boolean together) {
    /** More than this cannot be told apart in the 56 random bits of a trace id. */
    static final long MOST = 1L << 55;

    public SamplingRule {
        Objects.requireNonNull(when, "when");
        if (oneIn < 1 || oneIn > MOST) {
            throw new IllegalArgumentException("keep: 1 in " + oneIn + " (expected: 1 in 1 to 1 in " + MOST + ")");
        }
    }
}
