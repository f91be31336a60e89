package dev.graphema.query;

import dev.graphema.condition.Name;
import dev.graphema.event.Durations;
import dev.graphema.event.Event;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * How often which values occur together. Counts are made of the events' weights: where sampling has thinned events, they are
 * estimates of how many there were.
 *
 * @param names what was counted by
 * @param rows the combinations of values, the most frequent first, and among equals in the order of their values
 * @param kept how many events were counted
 * @param estimated how many events they stand for
 * @param reading what was read
 */
public record Tally(List<Name> names, List<Row> rows, long kept, long estimated, Reading reading) {
    /** How many combinations are told apart; further ones are counted as one, with {@link #OTHERS} for each value. */
    static final int MOST_ROWS = 100_000;

    /** What stands for the values beyond the limit. */
    public static final String OTHERS = "(others)";

    /**
     * One combination of values.
     *
     * @param values as text, in the order of the names; null where the event has none
     * @param kept how many events were counted
     * @param count how many events they stand for
     */
    public record Row(List<String> values, long kept, long count) {
        /** Whether events were thinned, so that the count is an estimate. */
        public boolean isEstimate() {
            return count != kept;
        }

        private Row plus(Row other) {
            return new Row(values, kept + other.kept, count + other.count);
        }
    }

    /** Counts the events of the logs. Of a field that is a list, the list as a whole is the value. */
    public static Tally of(Logs logs, List<Name> names) throws IOException {
        Map<List<String>, Row> rows = new HashMap<>();
        long[] totals = {0, 0};
        Reading reading = logs.read(event -> {
            List<String> values = new ArrayList<>(names.size());
            names.forEach(name -> values.add(text(event, name)));
            boolean known = rows.size() < MOST_ROWS || rows.containsKey(values);
            List<String> told = known ? values : others(names);
            rows.merge(told, new Row(told, 1, event.weight()), Row::plus);
            totals[0]++;
            totals[1] += event.weight();
            return true;
        });
        List<Row> sorted = new ArrayList<>(rows.values());
        sorted.sort(Comparator.comparingLong(Row::count)
                .reversed()
                .thenComparing(row -> row.values().toString()));
        return new Tally(List.copyOf(names), List.copyOf(sorted), totals[0], totals[1], reading);
    }

    /** Whether events were thinned, so that the counts are estimates. */
    public boolean isEstimate() {
        return estimated != kept;
    }

    private static List<String> others(List<Name> names) {
        return names.stream().map(name -> OTHERS).toList();
    }

    private static String text(Event event, Name name) {
        Object value = name.value(event);
        return value instanceof Duration duration
                ? Durations.text(duration).replace(" ", "")
                : value == null ? null : value.toString();
    }
}
