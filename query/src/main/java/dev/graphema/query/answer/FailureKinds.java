package dev.graphema.query.answer;

import dev.graphema.event.Event;
import java.util.List;
import java.util.Set;

/**
 * Failures by kind: those with the same fingerprint, which have the same types at the same place in the code.
 * Immutable.
 *
 * @param kinds the most frequent first
 * @param coverage what was read
 */
public record FailureKinds(List<Kind> kinds, Coverage coverage) implements Answer {
    /** The most distinguished kinds; failures of further ones are not counted. */
    public static final int MOST_KINDS = 10_000;

    public FailureKinds {
        kinds = List.copyOf(kinds);
    }

    /**
     * A kind of failure.
     *
     * @param fingerprint the common fingerprint
     * @param count the number of failures
     * @param first the time of the first one, in nanoseconds since 1970
     * @param last the time of the last one
     * @param where the instances, or else services, in which they occurred
     * @param course the numbers of failures in equal parts of the time between the first and the last of all failures
     * @param example the newest event
     */
    public record Kind(
            String fingerprint,
            long count,
            long first,
            long last,
            Set<String> where,
            List<Long> course,
            Event example) {}
}
