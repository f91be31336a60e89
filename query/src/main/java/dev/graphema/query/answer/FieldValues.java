package dev.graphema.query.answer;

import java.util.List;

/**
 * The values that events have, by name: attributes with texts, and all fields. Each item of a list is a value.
 *
 * @param names the names, those with the most events first
 * @param coverage what was read
 */
public record FieldValues(List<OfName> names, Coverage coverage) implements Answer {
    /** The most distinguished names, and the most distinguished values of a name; further values are not shown. */
    public static final int MOST_DISTINCT = 10_000;

    public FieldValues {
        names = List.copyOf(names);
    }

    /**
     * The values of a name.
     *
     * @param name the name
     * @param events the number of events with it, weighted
     * @param distinct the number of different values; {@link #MOST_DISTINCT} for that number or more
     * @param values the most frequent ones, as many as requested
     */
    public record OfName(String name, long events, long distinct, List<Value> values) {
        public OfName {
            values = List.copyOf(values);
        }
    }

    /**
     * A value.
     *
     * @param text the value as text
     * @param count the number of its occurrences, weighted
     */
    public record Value(String text, long count) {}
}
