package dev.graphema.query.partial;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Supplier;
import java.util.stream.IntStream;

/** Counts by time and source. A row is a number in the order in which sources are found; row 0 is that of all events. */
public final class CellCounts extends Transferable implements Partial<TimeMap> {
    private static final Name LEVEL = new Name(Attribute.LEVEL, null);
    private static final int ALL = 0;
    private static final int OTHER = -1;
    private static final int KINDS = 3;
    private static final int WARNINGS = 1;
    private static final int ERRORS = 2;

    /** With sources, steps have many counts, so that there are fewer of them. */
    private static final int MOST_STEPS = 4_000;

    private final Ask.TimeCells ask;
    private final Steps<Cells> steps;
    private final Map<List<String>, Integer> rows = new HashMap<>();
    private final List<List<String>> sources = new ArrayList<>();
    private boolean areOthers;
    private boolean isEstimate;

    // Where the values are in rows.
    private final int[] places;
    private final int levelPlace;

    // The source of the last event: logs of one source have many events of it in a row.
    private final Object[] lastValues;
    private int lastRow;

    CellCounts(Ask.TimeCells ask) {
        this.ask = ask;
        List<Name> names = names(ask);
        this.places = ask.by().stream().mapToInt(names::indexOf).toArray();
        this.levelPlace = names.indexOf(LEVEL);
        this.lastValues = new Object[places.length];
        this.lastRow = ask.by().isEmpty() ? ALL : OTHER;
        this.steps = ask.by().isEmpty()
                ? new Steps<>(Cells::new, Cells::plus)
                : new Steps<>(Cells::new, Cells::plus, MOST_STEPS);
        sources.add(List.of());
        if (ask.step() != null) {
            steps.madeFor(ask.step());
        }
    }

    /** Returns the values that are read: those of the sources, and the level. */
    static Projection projection(Ask.TimeCells ask) {
        return Projection.of(names(ask));
    }

    private static List<Name> names(Ask.TimeCells ask) {
        Set<Name> names = new LinkedHashSet<>(ask.by());
        names.add(LEVEL);
        return List.copyOf(names);
    }

    @Override
    public void add(EventRow row, long order) {
        add(row.time(), row(row), kind(row.value(levelPlace)), row.weight());
    }

    /**
     * Adds an event.
     *
     * @param source its {@linkplain #row(Object...) row}
     * @param kind its {@linkplain #kind kind}
     */
    public void add(long epochNanos, int source, int kind, long weight) {
        Cells cells = steps.at(epochNanos);
        isEstimate |= weight != 1;
        cells.kept++;
        cells.add(ALL, kind, weight);
        if (source != ALL && source != OTHER) {
            cells.add(source, kind, weight);
        }
    }

    /**
     * Adds events that were not sampled, for sources that count on their own.
     *
     * @param epochNanos the time of one of them; the others are at most a minute later
     * @param source their {@linkplain #row(Object...) row}
     * @param kind their {@linkplain #kind kind}
     */
    public void addUnsampled(long epochNanos, int source, int kind, long events) {
        Cells cells = steps.at(epochNanos);
        cells.kept += events;
        cells.add(ALL, kind, events);
        if (source != ALL && source != OTHER) {
            cells.add(source, kind, events);
        }
    }

    /** Returns what is asked. */
    public Ask.TimeCells asked() {
        return ask;
    }

    /** Returns the indexes in rows of the values that make a source. */
    public int[] places() {
        return places.clone();
    }

    /** Returns the index in rows of the level. */
    public int levelPlace() {
        return levelPlace;
    }

    /** Returns the kind of an event for {@link #add(long, int, int, long)} by its level, which can be null. */
    public static int kind(Object level) {
        if (level == null || level.equals(Level.INFO.text())) {
            return 0;
        }
        if (level.equals(Level.WARN.text())) {
            return WARNINGS;
        }
        return level.equals(Level.ERROR.text()) || level.equals(Level.FATAL.text()) ? ERRORS : 0;
    }

    private int row(EventRow row) {
        boolean isLast = lastRow != OTHER;
        for (int i = 0; i < lastValues.length; i++) {
            Object value = row.value(places[i]);
            isLast &= value == lastValues[i];
            lastValues[i] = value;
        }
        if (!isLast) {
            lastRow = row(lastValues);
        }
        return lastRow;
    }

    /** Returns the row for events with these values; null for missing ones. */
    public int row(Object... values) {
        return values.length == 0
                ? ALL
                : row(Arrays.asList(Arrays.stream(values).map(CountTable::text).toArray(String[]::new)));
    }

    private int row(List<String> values) {
        Integer row = rows.get(values);
        if (row == null && sources.size() <= TimeMap.MOST_ROWS) {
            row = sources.size();
            rows.put(values, row);
            sources.add(values);
        }
        areOthers |= row == null;
        return row == null ? OTHER : row;
    }

    @Override
    public CellCounts merge(Partial<TimeMap> other) {
        CellCounts more = (CellCounts) other;
        steps.add(more.renumbered(this));
        isEstimate |= more.isEstimate;
        areOthers |= more.areOthers;
        return this;
    }

    /** Returns the steps with the numbers of rows of another one. */
    private Steps<Cells> renumbered(CellCounts into) {
        int[] numbers = new int[sources.size()];
        for (int i = 1; i < numbers.length; i++) {
            numbers[i] = into.row(sources.get(i));
        }
        steps.change(cells -> cells.renumbered(numbers));
        return steps;
    }

    @Override
    Ask<?> ask() {
        return ask;
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.flag(isEstimate).flag(areOthers).begin();
        for (List<String> each : sources.subList(1, sources.size())) {
            to.begin().texts(each).end();
        }
        to.end();
        steps.write(to, Cells::write);
    }

    @Override
    void merge(StateReader from) throws IOException {
        CellCounts more = new CellCounts(ask);
        more.isEstimate = from.flag();
        more.areOthers = from.flag();
        from.begin();
        while (from.next()) {
            more.row(from.texts());
            from.end();
        }
        more.steps.add(from, Cells::read);
        merge(more);
    }

    @Override
    public boolean isEstimate() {
        return isEstimate;
    }

    @Override
    public String truncated() {
        return areOthers
                ? "there are more than " + TimeMap.MOST_ROWS + " sources; the events of the others are in the sums only"
                : null;
    }

    @Override
    public TimeMap answer(Supplier<Coverage> coverage) {
        if (steps.isEmpty()) {
            Duration step = ask.step() == null ? Duration.ofSeconds(1) : ask.step();
            TimeMap.Row none = new TimeMap.Row(List.of(), List.of(), List.of(), List.of());
            return new TimeMap(step, ask.by(), List.of(), List.of(), 0, none, List.of(), List.of(), coverage.get());
        }
        long step = ask.step() == null ? steps.roundStep(ask.most()) : steps.possible(ask.step());
        ZoneId zone = ask.zone() == null ? ZoneId.systemDefault() : ask.zone();
        TreeMap<Long, Cells> counted = steps.by(step, zone);
        List<Long> begins = Steps.begins(counted, step, zone);
        Cells[] cells = new Cells[begins.size()];
        for (int i = 0; i < cells.length; i++) {
            cells[i] = counted.getOrDefault(begins.get(i), Cells.NONE);
        }
        long[] counts = Arrays.stream(cells).mapToLong(each -> each.of(ALL, 0)).toArray();
        Spikes spikes = new Spikes(counts);
        List<Integer> shown = shown(cells);
        return new TimeMap(
                Duration.ofNanos(step),
                ask.by(),
                begins,
                shown.stream().map(row -> row(row, cells)).toList(),
                sources.size() - 1 - shown.size(),
                row(ALL, cells),
                Arrays.stream(cells).map(each -> each.kept).toList(),
                IntStream.range(0, cells.length).mapToObj(spikes::isSpike).toList(),
                coverage.get());
    }

    /** Returns the most conspicuous rows in the order of their values. */
    private List<Integer> shown(Cells[] cells) {
        long[][] sums = new long[KINDS][sources.size()];
        for (Cells each : cells) {
            for (int row = 0; row < sources.size(); row++) {
                for (int kind = 0; kind < KINDS; kind++) {
                    sums[kind][row] += each.of(row, kind);
                }
            }
        }
        Comparator<Integer> byCount = Comparator.<Integer>comparingLong(row -> sums[ERRORS][row])
                .thenComparingLong(row -> sums[WARNINGS][row])
                .thenComparingLong(row -> sums[0][row])
                .reversed();
        Comparator<Integer> byValues = Comparator.comparing(row -> String.join("\u0000", texts(sources.get(row))));
        return IntStream.range(1, sources.size())
                .boxed()
                .sorted(byCount.thenComparing(byValues))
                .limit(ask.shown())
                .sorted(byValues)
                .toList();
    }

    /** Missing values are last. */
    private static List<String> texts(List<String> values) {
        return values.stream().map(each -> each == null ? "\uffff" : each).toList();
    }

    private TimeMap.Row row(int row, Cells[] cells) {
        List<List<Long>> kinds = IntStream.range(0, KINDS)
                .mapToObj(kind ->
                        Arrays.stream(cells).map(each -> each.of(row, kind)).toList())
                .toList();
        return new TimeMap.Row(
                Collections.unmodifiableList(sources.get(row)), kinds.get(0), kinds.get(WARNINGS), kinds.get(ERRORS));
    }

    /** The counts of a step: three for each row. */
    private static final class Cells {
        private static final Cells NONE = new Cells();

        private long kept;
        private long[] counts = new long[KINDS];

        void add(int row, int kind, long weight) {
            int first = row * KINDS;
            if (first >= counts.length) {
                counts = Arrays.copyOf(counts, first + KINDS);
            }
            counts[first] += weight;
            if (kind != 0) {
                counts[first + kind] += weight;
            }
        }

        long of(int row, int kind) {
            int place = row * KINDS + kind;
            return place < counts.length ? counts[place] : 0;
        }

        Cells renumbered(int[] numbers) {
            Cells cells = new Cells();
            cells.kept = kept;
            for (int row = 0; row < counts.length / KINDS; row++) {
                if (numbers[row] != OTHER) {
                    cells.plus(numbers[row], counts, row);
                }
            }
            return cells;
        }

        private void plus(int row, long[] more, int from) {
            add(row, 0, more[from * KINDS]);
            counts[row * KINDS + WARNINGS] += more[from * KINDS + WARNINGS];
            counts[row * KINDS + ERRORS] += more[from * KINDS + ERRORS];
        }

        Cells plus(Cells other) {
            kept += other.kept;
            for (int row = 0; row < other.counts.length / KINDS; row++) {
                plus(row, other.counts, row);
            }
            return this;
        }

        void write(StateWriter to) throws IOException {
            to.number(kept).numbers(counts);
        }

        static Cells read(StateReader from) throws IOException {
            Cells cells = new Cells();
            cells.kept = from.number();
            cells.counts = from.numbers();
            if (cells.counts.length == 0 || cells.counts.length % KINDS != 0) {
                throw new IOException(
                        "a partial answer has " + cells.counts.length + " counts: expected a multiple of 3");
            }
            return cells;
        }
    }
}
