package dev.graphema.query.answer;

import java.util.List;
import java.util.Set;
import java.util.function.Predicate;

/**
 * The differences between two sets of events: messages, failures and values of fields that are new, gone, or much more
 * or less frequent. Differences that chance can explain are excluded by the log-likelihood ratio of the two shares (T.
 * Dunning, 1993), for which a sampled event counts once. The others are ranked by that ratio times the binary logarithm
 * of the ratio of the shares, so that something rare that is new precedes something frequent that is somewhat more
 * frequent. Immutable.
 *
 * @param differences the most surprising first
 * @param others the number of events with which those of the question are compared
 * @param events the number of events of the question
 * @param tooManyValues fields with too many values to be compared
 * @param coverage what was read for both sets
 */
public record Differences(
        List<Difference> differences, long others, long events, Set<String> tooManyValues, Coverage coverage)
        implements Answer {
    public Differences {
        differences = List.copyOf(differences);
        tooManyValues = Set.copyOf(tooManyValues);
    }

    /** Returns the answer with only some of its differences. */
    public Differences only(Predicate<Difference> wanted) {
        return new Differences(differences.stream().filter(wanted).toList(), others, events, tooManyValues, coverage);
    }

    /** The kind of a difference. */
    public enum Kind {
        NEW,
        GONE,
        MORE,
        LESS
    }

    /**
     * A difference.
     *
     * @param kind its kind
     * @param condition a condition for the events
     * @param others the number of events in the set that is compared with
     * @param events the number of events in the set of the question
     * @param also other conditions with the same numbers of events, probably the same events
     * @param surprise the rank among the differences
     */
    public record Difference(
            Kind kind, String condition, long others, long events, List<String> also, double surprise) {}
}
