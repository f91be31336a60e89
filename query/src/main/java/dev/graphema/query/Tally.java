package dev.graphema.query;

import dev.graphema.condition.Name;
import dev.graphema.event.Durations;
import dev.graphema.event.Event;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * How often which values occur together. Counts are made of the events' weights: where sampling has thinned events, they are
 * estimates of how many there were.
 *
 * @param names what was counted by
 * @param rows the combinations of values, the most frequent first, and among equals in the order of their values
 * @param all how many events there were in all
 * @param reading what was read
 */
public record Tally(List<Name> names, List<Row> rows, Estimate all, Reading reading) {
    /** How many combinations are told apart; further ones are counted as one, with {@link #OTHERS} for each value. */
    static final int MOST_ROWS = 100_000;

    /** What stands for the values beyond the limit. */
    public static final String OTHERS = "(others)";

    /**
     * One combination of values.
     *
     * @param values as text, in the order of the names; null where the event has none
     * @param events how many events have them
     * @param measured the values of the field that was asked for besides; null when none was
     */
    public record Row(List<String> values, Estimate events, Measure measured) {}

    /** Counts the events of the logs. Of a field that is a list, the list as a whole is the value. */
    public static Tally of(Logs logs, List<Name> names) throws IOException {
        return of(logs, names, null);
    }

    /** As above. @param measured the field whose values are measured in each row; null for none */
    public static Tally of(Logs logs, List<Name> names, Name measured) throws IOException {
        Set<Name> looked = new LinkedHashSet<>(names);
        if (measured != null) {
            looked.add(measured);
        }
        Logs.Gathered<Counts> gathered = logs.only(looked)
                .gather(
                        () -> new Counts(names, measured),
                        (counts, event, order, whole) -> counts.add(event),
                        Counts::plus);
        Counts counts = gathered.result();
        List<Row> sorted = new ArrayList<>(counts.rows.size());
        counts.rows.forEach((told, one) ->
                sorted.add(new Row(told, one.count.estimate(), one.values == null ? null : one.values.measure())));
        sorted.sort(Comparator.comparingLong((Row row) -> row.events().count())
                .reversed()
                .thenComparing(row -> row.values().toString()));
        return new Tally(List.copyOf(names), List.copyOf(sorted), counts.all.estimate(), gathered.reading());
    }

    /** What one thread counts. */
    private static final class Counts {
        private final List<Name> names;
        private final Name measured;
        private final WeightedCount.Shared shared = new WeightedCount.Shared();
        private final WeightedCount all = new WeightedCount(shared);
        private final Map<List<String>, Counted> rows = new HashMap<>();

        Counts(List<Name> names, Name measured) {
            this.names = names;
            this.measured = measured;
        }

        void add(Event event) {
            all.add(event);
            row(combination(event)).add(event);
        }

        private Counted row(List<String> combination) {
            Counted known = rows.get(combination);
            return known != null
                    ? known
                    : rows.computeIfAbsent(
                            rows.size() < MOST_ROWS ? combination : others(names),
                            missing -> new Counted(new WeightedCount(shared), measured));
        }

        private List<String> combination(Event event) {
            if (names.size() == 1) {
                return Collections.singletonList(text(event, names.get(0)));
            }
            String[] combination = new String[names.size()];
            for (int i = 0; i < combination.length; i++) {
                combination[i] = text(event, names.get(i));
            }
            return Arrays.asList(combination);
        }

        Counts plus(Counts other) {
            all.add(other.all);
            other.rows.forEach((combination, one) -> row(combination).add(one));
            return this;
        }
    }

    /** What is counted of one combination. */
    private static final class Counted {
        private final WeightedCount count;
        private final Measure.Gathering values;

        /** @param measured null when nothing is */
        Counted(WeightedCount count, Name measured) {
            this.count = count;
            this.values = measured == null ? null : new Measure.Gathering(measured);
        }

        void add(Event event) {
            count.add(event);
            if (values != null) {
                values.add(event);
            }
        }

        void add(Counted other) {
            count.add(other.count);
            if (values != null) {
                values.add(other.values);
            }
        }
    }

    private static List<String> others(List<Name> names) {
        return names.stream().map(name -> OTHERS).toList();
    }

    /** A value as it is told and counted; null when the event has none. */
    static String text(Event event, Name name) {
        Object value = name.value(event);
        return value instanceof Duration duration
                ? Durations.text(duration).replace(" ", "")
                : value == null ? null : value.toString();
    }
}
