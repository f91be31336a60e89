package dev.graphema.sampling;

import dev.graphema.condition.Condition;
import java.util.Objects;

/**
 * A rule that keeps some of the events that match its condition.
 *
 * @param when the events to sample
 * @param keep how many of them are kept
 * @param together whether all events of a trace are kept or dropped together, in every service with the same rule;
 *     events without a trace are sampled individually. Only for {@link Keep.OneIn} and {@link Keep.Percent}
 * @param errors whether errors are sampled, too
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

    /** A rule that keeps one of a number of events; errors are kept. */
    public SamplingRule(Condition when, long oneIn, boolean together) {
        this(when, new Keep.OneIn(oneIn), together, false);
    }
}
