package dev.graphema.sampling;

import dev.graphema.condition.Condition;
import java.util.Objects;

/**
 * Of the events for which the condition holds, some are kept.
 *
 * @param when which events are thinned
 * @param keep how many of them stay
 * @param together whether all events of a trace share one fate, here and in every service with the same rule; events
 *     without a trace are thinned one by one. Only for {@link Keep.OneIn} and {@link Keep.Percent}
 * @param errors whether errors are thinned, too; otherwise they are not, whatever the condition says
 */
public record SamplingRule(Condition when, Keep keep, boolean together, boolean errors) {
    public SamplingRule {
        Objects.requireNonNull(when, "when");
        Objects.requireNonNull(keep, "keep");
        boolean isShare = keep instanceof Keep.OneIn || keep instanceof Keep.Percent;
        if (together && !isShare) {
            throw new IllegalArgumentException(
                    "together: trace with keep: " + keep.text() + " (expected: together with 1 in N or a percentage)");
        }
    }

    /** One in so many; errors stay. */
    public SamplingRule(Condition when, long oneIn, boolean together) {
        this(when, new Keep.OneIn(oneIn), together, false);
    }
}
