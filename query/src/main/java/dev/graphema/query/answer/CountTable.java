package dev.graphema.query.answer;

import dev.graphema.condition.Name;
import dev.graphema.text.Durations;
import java.time.Duration;
import java.util.List;

/**
 * Counts of combinations of values, weighted: if events were sampled, the counts are estimates. Immutable.
 *
 * @param names the names of the values
 * @param rows the combinations, the most frequent first, and then in the order of values
 * @param all the number of all events
 * @param coverage what was read
 */
public record CountTable(List<Name> names, List<Row> rows, Estimate all, Coverage coverage) implements Answer {
    /** The most distinguished combinations; others are counted as one, with {@link #OTHERS} for each value. */
    public static final int MOST_ROWS = 100_000;

    /** The name of the values beyond the limit. */
    public static final String OTHERS = "(others)";

    public CountTable {
        names = List.copyOf(names);
        rows = List.copyOf(rows);
    }

    /**
     * A combination of values.
     *
     * @param values as text, in the order of the names; null for a missing value
     * @param events the number of events
     * @param measured statistics of a further value; null for none
     */
    public record Row(List<String> values, Estimate events, Measure measured) {}

    /** Returns the text of a value, by which it is counted; null for none. */
    public static String text(Object value) {
        return value instanceof Duration duration ? Durations.exact(duration) : value == null ? null : value.toString();
    }
}
