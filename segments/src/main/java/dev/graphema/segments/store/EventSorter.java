package dev.graphema.segments.store;

import dev.graphema.condition.Condition;
import dev.graphema.lines.LineStream;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Window;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.function.IntUnaryOperator;
import java.util.function.LongSupplier;
import java.util.function.ToIntFunction;
import java.util.stream.IntStream;

/**
 * Divides lines into segments by classes of their events, such as those with the same retention rule: the events of a class and of
 * the same day (or hour) come into one segment, in the order of time. For one thread.
 */
final class EventSorter {
    /** The class of events that come into no segment. */
    static final int DROPPED = Integer.MIN_VALUE;

    /** The hours of a period that contains all times from 1970 on. */
    static final int ALL_HOURS = 2_500_000;

    private final byte[] lines;

    // The events by their number: where their lines begin, their time, and their class.
    private int[] begins = new int[1024];
    private long[] times = new long[1024];
    private int[] classes = new int[1024];
    private int count;

    /**
     * Reads the events.
     *
     * @param lines lines, each with its line feed
     * @param needed the values that decide on the class of an event
     * @param classOf returns the class of an event
     * @param otherwise the class of lines without any event
     * @param now the time of lines without any event
     */
    EventSorter(byte[] lines, Projection needed, ToIntFunction<EventRow> classOf, int otherwise, long now)
            throws IOException {
        this.lines = lines;
        CoverageBuilder unreported =
                new CoverageBuilder(Control.NONE); // readers report what is damaged, and it is kept
        LineStream stream = LineStream.uncompressed("log", new ByteArrayInputStream(lines), LineShape.USUAL);
        Scan all = new Scan(Condition.EVERYTHING, Window.ALWAYS, needed, false);
        try (Rows rows = stream.plan(all, unreported).parts().get(0).open(unreported)) {
            while (rows.advance()) {
                add((int) rows.position(), rows.time(), classOf.applyAsInt(rows));
            }
        }
        if (count == 0) {
            add(0, now, otherwise);
        }
        begins[0] = 0; // what is before the first event stays with it
    }

    private void add(int position, long time, int eventClass) {
        if (count == begins.length) {
            begins = Arrays.copyOf(begins, 2 * count);
            times = Arrays.copyOf(times, 2 * count);
            classes = Arrays.copyOf(classes, 2 * count);
        }
        int begin = position; // of JSON behind other text, that of its brace
        while (begin > 0 && lines[begin - 1] != '\n') {
            begin--;
        }
        begins[count] = begin;
        times[count] = time;
        classes[count++] = eventClass;
    }

    /** Decides whether an event is dropped by the bytes of its lines. */
    @FunctionalInterface
    interface BytesTest {
        boolean isTrueOf(byte[] bytes, int from, int to);
    }

    /** Drops all events whose bytes pass a test. */
    void drop(BytesTest test) {
        for (int event = 0; event < count; event++) {
            if (test.isTrueOf(lines, begins[event], end(event))) {
                classes[event] = DROPPED;
            }
        }
    }

    /** Returns the number of the lines of dropped events. */
    long droppedLines() {
        long dropped = 0;
        for (int event = 0; event < count; event++) {
            for (int i = begins[event]; classes[event] == DROPPED && i < end(event); i++) {
                dropped += lines[i] == '\n' ? 1 : 0;
            }
        }
        return dropped;
    }

    /** Returns the classes of all events. */
    IntStream classes() {
        return Arrays.stream(classes, 0, count).distinct();
    }

    /**
     * Writes the segments.
     *
     * @param hours returns the length of the periods of a class
     * @param key what the classes depend on
     * @param numbers returns the numbers of the segments
     */
    List<Manifest.Entry> writeTo(SegmentFolder folder, IntUnaryOperator hours, String key, LongSupplier numbers)
            throws IOException {
        Integer[] order = IntStream.range(0, count)
                .filter(event -> classes[event] != DROPPED)
                .boxed()
                .toArray(Integer[]::new);
        Arrays.sort(
                order,
                Comparator.<Integer>comparingInt(event -> classes[event])
                        .thenComparingLong(event -> times[event])
                        .thenComparingInt(event -> event));
        List<Manifest.Entry> written = new ArrayList<>();
        int from = 0;
        while (from < order.length) {
            int eventClass = classes[order[from]];
            long nanos = hours.applyAsInt(eventClass) * 3_600_000_000_000L;
            long period = Math.floorDiv(times[order[from]], nanos);
            int to = from + 1;
            while (to < order.length
                    && classes[order[to]] == eventClass
                    && Math.floorDiv(times[order[to]], nanos) == period) {
                to++;
            }
            List<Integer> events = Arrays.asList(order).subList(from, to);
            written.add(folder.write(numbers.getAsLong(), eventClass, key, segment -> {
                for (int event : events) {
                    add(event, segment);
                }
            }));
            from = to;
        }
        return written;
    }

    private int end(int event) {
        return event + 1 < count ? begins[event + 1] : lines.length;
    }

    private void add(int event, SegmentFolder.Draft to) throws IOException {
        int from = begins[event];
        int end = end(event);
        for (int i = from; i < end; i++) {
            if (lines[i] == '\n') {
                to.add(lines, from, i, times[event]);
                from = i + 1;
            }
        }
    }
}
