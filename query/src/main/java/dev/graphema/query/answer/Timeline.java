package dev.graphema.query.answer;

import java.time.Duration;
import java.util.List;

/**
 * Counts of events over time, weighted: if events were sampled, they are estimates. Immutable.
 *
 * @param step the length of a step
 * @param values the values by which steps are divided, the most frequent first; empty if they are not
 * @param steps all steps from the first to the last with an event, including empty ones
 * @param coverage what was read
 */
public record Timeline(Duration step, List<String> values, List<Step> steps, Coverage coverage) implements Answer {
    public Timeline {
        values = List.copyOf(values);
        steps = List.copyOf(steps);
    }

    /**
     * A step.
     *
     * @param from its begin, in nanoseconds since 1970
     * @param count the number of events
     * @param byValue the numbers by value, in the order of {@link Timeline#values}
     * @param isSpike whether the count is more than the median plus five times the usual deviation, and the highest of
     *     the two steps before and after it
     */
    public record Step(long from, long count, List<Long> byValue, boolean isSpike) {}

    /** Returns whether sampled events were counted. */
    public boolean isEstimate() {
        return coverage.isEstimate();
    }
}
