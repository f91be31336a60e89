package dev.graphema.query.partial;

import dev.graphema.query.Ask;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Measure;
import dev.graphema.query.row.EventRow;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;

/** Counts of combinations of values. */
public final class ValueCounts extends Transferable implements Partial<CountTable> {
    private final Ask.Counts ask;
    private final int[] places;
    private final int measured;
    private final WeightedCount.Shared shared = new WeightedCount.Shared();
    private final Map<List<String>, Counted> rows = new HashMap<>();
    private Counted others;

    /** The number of events if they are counted several times, for each item. */
    private final WeightedCount all = new WeightedCount(shared);

    /** Whether an event had more combinations than can be counted. */
    private boolean isCut;

    /** Counts by value, for a single name: most values recur, and need not be formatted. */
    private final Map<Object, Counted> byValue = new HashMap<>();

    /**
     * @param places the indexes of the values in rows
     * @param measured the index of the measured value; negative for none
     */
    ValueCounts(Ask.Counts ask, int[] places, int measured) {
        this.ask = ask;
        this.places = places;
        this.measured = measured;
    }

    @Override
    public void add(EventRow row, long order) {
        if (ask.items()) {
            all.add(row.weight(), row.trace());
            if (hasList(row)) {
                items(row);
                return;
            }
        }
        Counted one = places.length == 1 ? byValue(row.value(places[0])) : counted(combination(row));
        one.add(row, measured);
    }

    private boolean hasList(EventRow row) {
        for (int place : places) {
            if (row.value(place) instanceof List) {
                return true;
            }
        }
        return false;
    }

    /** Adds an event with a list to each combination of items. */
    private void items(EventRow row) {
        Set<List<String>> combinations = new LinkedHashSet<>();
        combinations.add(List.of());
        for (int place : places) {
            Set<List<String>> longer = new LinkedHashSet<>();
            List<?> items =
                    row.value(place) instanceof List<?> list ? list : Collections.singletonList(row.value(place));
            for (List<String> before : combinations) {
                for (Object item : items.isEmpty() ? Collections.singletonList(null) : items) {
                    List<String> one = new ArrayList<>(before);
                    one.add(CountTable.text(item));
                    if (longer.size() < CountTable.MOST_ROWS) {
                        longer.add(one);
                    } else {
                        isCut |= !longer.contains(one);
                    }
                }
            }
            combinations = longer;
        }
        for (List<String> combination : combinations) {
            counted(combination).add(row, measured);
        }
    }

    /** Returns whether a source can count on its own: items of lists are not counted, which needs the events. */
    public boolean countsCombinations() {
        return !ask.items();
    }

    /** The count of a combination, for sources that count on their own. */
    public interface Cell {
        /** Adds a number of events that were not sampled. */
        void add(long events);

        /** Adds a number of events of a weight that have no trace. */
        void add(long events, long weight);

        /**
         * Adds an event.
         *
         * @param trace null for none
         */
        void add(long weight, TraceId trace);

        /** Adds the measured value of an event that is added as well; null for none. */
        void measure(Object value, long weight);

        /** As above, for a whole number. */
        void measure(long value, long weight);
    }

    /**
     * Returns the count of a combination.
     *
     * @param values the combination, in the order of the names; null for a missing value
     * @throws IllegalStateException if {@linkplain #countsCombinations items} are counted
     */
    public Cell cell(List<?> values) {
        if (!countsCombinations()) {
            throw new IllegalStateException("items of lists need the events");
        }
        return counted(values.stream().map(CountTable::text).toList());
    }

    /** Returns the indexes of the counted values in rows. */
    public int[] places() {
        return places.clone();
    }

    /** Returns the index of the measured value in rows; negative for none. */
    public int measured() {
        return measured;
    }

    private Counted byValue(Object value) {
        Counted known = byValue.get(value);
        return known != null ? known : newValue(value);
    }

    private Counted newValue(Object value) {
        Counted counted = counted(Collections.singletonList(CountTable.text(value)));
        if (byValue.size() < CountTable.MOST_ROWS) {
            byValue.put(value, counted);
        }
        return counted;
    }

    private Counted counted(List<String> combination) {
        Counted known = rows.get(combination);
        if (known == null && rows.size() < CountTable.MOST_ROWS) {
            known = new Counted(new WeightedCount(shared), measured >= 0);
            rows.put(combination, known);
        }
        return known == null ? others() : known;
    }

    /** Returns the counts of the combinations beyond the limit. */
    private Counted others() {
        if (others == null) {
            others = new Counted(new WeightedCount(shared), measured >= 0);
        }
        return others;
    }

    private List<String> combination(EventRow row) {
        String[] combination = new String[places.length];
        for (int i = 0; i < combination.length; i++) {
            combination[i] = CountTable.text(row.value(places[i]));
        }
        return Arrays.asList(combination);
    }

    @Override
    public ValueCounts merge(Partial<CountTable> other) {
        ValueCounts more = (ValueCounts) other;
        all.add(more.all);
        isCut |= more.isCut;
        more.rows.forEach((combination, one) -> counted(combination).add(one));
        if (more.others != null) {
            others().add(more.others);
        }
        return this;
    }

    @Override
    Ask<?> ask() {
        return ask;
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.flag(isCut);
        all.write(to);
        to.begin();
        for (Map.Entry<List<String>, Counted> row : rows.entrySet()) {
            to.begin().texts(row.getKey());
            row.getValue().write(to);
            to.end();
        }
        to.end().begin();
        if (others != null) {
            to.begin();
            others.write(to);
            to.end();
        }
        to.end();
    }

    @Override
    void merge(StateReader from) throws IOException {
        isCut |= from.flag();
        all.add(from);
        from.begin();
        while (from.next()) {
            counted(Collections.unmodifiableList(from.texts())).add(from);
            from.end();
        }
        from.begin();
        while (from.next()) {
            others().add(from);
            from.end();
        }
    }

    @Override
    public boolean isEstimate() {
        return others != null && others.count.isEstimate()
                || rows.values().stream().anyMatch(one -> one.count.isEstimate());
    }

    @Override
    public String truncated() {
        if (isCut) {
            return "an event has more than " + CountTable.MOST_ROWS
                    + " combinations of items; the others are not counted";
        }
        return others == null
                ? null
                : "there are more than " + CountTable.MOST_ROWS + " combinations of values; the others are counted as "
                        + CountTable.OTHERS;
    }

    @Override
    public CountTable answer(Supplier<Coverage> coverage) {
        WeightedCount sum = new WeightedCount(shared);
        rows.values().forEach(one -> sum.add(one.count));
        List<CountTable.Row> sorted = new ArrayList<>(rows.size() + 1);
        rows.forEach((values, one) -> sorted.add(one.row(values, ask.percentiles())));
        if (others != null) {
            sum.add(others.count);
            sorted.add(others.row(Collections.nCopies(places.length, CountTable.OTHERS), ask.percentiles()));
        }
        sorted.sort((one, other) -> {
            int byCount = Long.compare(other.events().count(), one.events().count());
            return byCount != 0
                    ? byCount
                    : one.values().toString().compareTo(other.values().toString());
        });
        return new CountTable(ask.by(), sorted, (ask.items() ? all : sum).estimate(), coverage.get());
    }

    /** The counts of a combination. */
    private static final class Counted implements Cell {
        private final WeightedCount count;
        private final Statistics statistics;

        Counted(WeightedCount count, boolean isMeasured) {
            this.count = count;
            this.statistics = isMeasured ? new Statistics() : null;
        }

        CountTable.Row row(List<String> values, List<BigDecimal> percentiles) {
            Measure measure = statistics == null ? null : statistics.measure(percentiles);
            return new CountTable.Row(values, count.estimate(), measure);
        }

        @Override
        public void add(long events) {
            count.add(events);
        }

        @Override
        public void add(long events, long weight) {
            count.add(events, weight);
        }

        @Override
        public void add(long weight, TraceId trace) {
            count.add(weight, trace);
        }

        @Override
        public void measure(Object value, long weight) {
            statistics.add(value, weight);
        }

        @Override
        public void measure(long value, long weight) {
            statistics.whole(value, weight);
        }

        void add(EventRow row, int measured) {
            count.add(row.weight(), row.trace());
            if (statistics != null) {
                statistics.add(row.value(measured), row.weight());
            }
        }

        void write(StateWriter to) throws IOException {
            count.write(to);
            if (statistics != null) {
                statistics.write(to);
            }
        }

        void add(StateReader from) throws IOException {
            count.add(from);
            if (statistics != null) {
                statistics.add(from);
            }
        }

        void add(Counted other) {
            count.add(other.count);
            if (statistics != null) {
                statistics.add(other.statistics);
            }
        }
    }
}
