package dev.graphema.query;

import dev.graphema.condition.Name;
import dev.graphema.event.Durations;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;

/**
 * Counts of combinations of values, weighted: if events were sampled, the counts are estimates.
 *
 * @param names the names of the values
 * @param rows the combinations, the most frequent first, and then in the order of values
 * @param all the number of all events
 * @param reading what was read
 */
public record Tally(List<Name> names, List<Row> rows, Estimate all, Reading reading) {
    /** The most distinguished combinations; others are counted as one, with {@link #OTHERS} for each value. */
    static final int MOST_ROWS = 100_000;

    /** The name of the values beyond the limit. */
    public static final String OTHERS = "(others)";

    /**
     * A combination of values.
     *
     * @param values as text, in the order of the names; null for a missing value
     * @param events the number of events
     * @param measured statistics of a further field; null for none
     */
    public record Row(List<String> values, Estimate events, Measure measured) {}

    /** Counts the events of the logs. The value of a list is the complete list. */
    public static Tally of(Logs logs, List<Name> names) throws IOException {
        return of(logs, names, null);
    }

    /** As above. @param measured the field for statistics in each row; null for none */
    public static Tally of(Logs logs, List<Name> names, Name measured) throws IOException {
        List<Name> looked = new ArrayList<>(new LinkedHashSet<>(names));
        if (measured != null && !looked.contains(measured)) {
            looked.add(measured);
        }
        int[] places = names.stream().mapToInt(looked::indexOf).toArray();
        int measuredPlace = looked.indexOf(measured);
        Logs.Gathered<Counts> gathered = logs.only(looked)
                .gather(() -> new Counts(places, measuredPlace), (counts, row, order) -> counts.add(row), Counts::plus);
        Counts counts = gathered.result();
        WeightedCount all = new WeightedCount(counts.shared);
        counts.rows.values().forEach(one -> all.add(one.count));
        List<Row> sorted = new ArrayList<>(counts.rows.size());
        counts.rows.forEach((told, one) ->
                sorted.add(new Row(told, one.count.estimate(), one.values == null ? null : one.values.measure())));
        sorted.sort((one, other) -> {
            int byCount = Long.compare(other.events().count(), one.events().count());
            return byCount != 0
                    ? byCount
                    : one.values().toString().compareTo(other.values().toString());
        });
        return new Tally(List.copyOf(names), List.copyOf(sorted), all.estimate(), gathered.reading());
    }

    /** The counts of one thread. */
    private static final class Counts {
        private final int[] places;
        private final int measured;
        private final WeightedCount.Shared shared = new WeightedCount.Shared();
        private final Map<List<String>, Counted> rows = new HashMap<>();

        /** Counts by value, for a single name: most values recur, and need not be formatted. */
        private final Map<Object, Counted> byValue = new HashMap<>();

        /**
         * @param places the indexes of the values in rows
         * @param measured the index of the measured field; negative for none
         */
        Counts(int[] places, int measured) {
            this.places = places;
            this.measured = measured;
        }

        void add(EventRow row) {
            Counted one = places.length == 1 ? byValue(row.value(places[0])) : counted(combination(row));
            one.add(row, measured);
        }

        private Counted byValue(Object value) {
            Counted known = byValue.get(value);
            return known != null ? known : newValue(value);
        }

        private Counted newValue(Object value) {
            Counted counted = counted(Collections.singletonList(text(value)));
            if (byValue.size() < MOST_ROWS) {
                byValue.put(value, counted);
            }
            return counted;
        }

        private Counted counted(List<String> combination) {
            Counted known = rows.get(combination);
            return known != null
                    ? known
                    : rows.computeIfAbsent(
                            rows.size() < MOST_ROWS ? combination : Collections.nCopies(places.length, OTHERS),
                            missing -> new Counted(new WeightedCount(shared), measured >= 0));
        }

        private List<String> combination(EventRow row) {
            String[] combination = new String[places.length];
            for (int i = 0; i < combination.length; i++) {
                combination[i] = text(row.value(places[i]));
            }
            return Arrays.asList(combination);
        }

        Counts plus(Counts other) {
            other.rows.forEach((combination, one) -> counted(combination).add(one));
            return this;
        }
    }

    /** The counts of a combination. */
    private static final class Counted {
        private final WeightedCount count;
        private final Measure.Gathering values;

        Counted(WeightedCount count, boolean isMeasured) {
            this.count = count;
            this.values = isMeasured ? new Measure.Gathering() : null;
        }

        void add(EventRow row, int measured) {
            count.add(row.weight(), row.trace());
            if (values != null) {
                values.add(row.value(measured), row.weight());
            }
        }

        void add(Counted other) {
            count.add(other.count);
            if (values != null) {
                values.add(other.values);
            }
        }
    }

    /** Returns the text of a value; null for none. */
    static String text(Object value) {
        return value instanceof Duration duration
                ? Durations.text(duration).replace(" ", "")
                : value == null ? null : value.toString();
    }
}
