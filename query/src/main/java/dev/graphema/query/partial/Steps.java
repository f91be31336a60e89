package dev.graphema.query.partial;

import dev.graphema.text.Times;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BinaryOperator;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;

/**
 * Values by time steps. The number of steps is not known beforehand: they begin fine, and become coarser if there are
 * too many. For one thread.
 *
 * @param <V> the value of a step
 */
final class Steps<V> {
    private static final long MILLI = 1_000_000L;
    private static final long SECOND = 1_000 * MILLI;
    private static final long MINUTE = 60 * SECOND;
    private static final long HOUR = 60 * MINUTE;
    private static final long DAY = 24 * HOUR;

    /** The possible lengths of steps, each a multiple of the previous one. */
    private static final long[] LADDER = {
        MILLI, 10 * MILLI, 100 * MILLI, SECOND, 10 * SECOND, MINUTE, 10 * MINUTE, HOUR, DAY
    };

    /** Lengths that are usual for people. */
    private static final List<Long> ROUND = List.of(
            MILLI,
            2 * MILLI,
            5 * MILLI,
            10 * MILLI,
            20 * MILLI,
            50 * MILLI,
            100 * MILLI,
            200 * MILLI,
            500 * MILLI,
            SECOND,
            2 * SECOND,
            5 * SECOND,
            10 * SECOND,
            15 * SECOND,
            30 * SECOND,
            MINUTE,
            2 * MINUTE,
            5 * MINUTE,
            10 * MINUTE,
            15 * MINUTE,
            30 * MINUTE,
            HOUR,
            2 * HOUR,
            3 * HOUR,
            6 * HOUR,
            12 * HOUR,
            DAY,
            7 * DAY);

    /** Days do not begin at full hours of UTC in all zones. */
    private static final long LONGEST_BEFORE_ZONES_MATTER = MINUTE;

    /**
     * The range of times, 1824 to 2116, in which the sum of a time and a step does not overflow. Times outside are from
     * wrong clocks.
     */
    private static final long FAR = Long.MAX_VALUE / 2;

    private static final int MOST = 20_000;

    /** The most steps, including empty ones: a single wrong time makes a log as long as centuries. */
    private static final int MOST_WITH_EMPTY = 1_000_000;

    private final Supplier<V> maker;
    private final BinaryOperator<V> merger;
    private final int most;
    private int rung;
    private TreeMap<Long, V> values = new TreeMap<>();

    // The step in which the last moment lay: in sorted logs, the next one does so, too.
    private long lastIndex;
    private V last;

    /** @param merger merges the values of two steps; may change and return the first */
    Steps(Supplier<V> maker, BinaryOperator<V> merger) {
        this(maker, merger, MOST);
    }

    /** @param most the most steps */
    Steps(Supplier<V> maker, BinaryOperator<V> merger, int most) {
        this.maker = maker;
        this.merger = merger;
        this.most = most;
    }

    /** Sets the finest useful step, so that there are fewer to merge; to be called before the first value. */
    Steps<V> madeFor(Duration step) {
        long nanos = Duration.ofSeconds(step.getSeconds() % 86_400, step.getNano())
                .toNanos(); // of days, any number is made of minutes
        while (LADDER[rung] < LONGEST_BEFORE_ZONES_MATTER && nanos % LADDER[rung + 1] == 0) {
            rung++;
        }
        return this;
    }

    /** Returns the value of the step that contains the time. */
    V at(long epochNanos) {
        long moment = Math.max(-FAR, Math.min(epochNanos, FAR));
        long index = Math.floorDiv(moment, LADDER[rung]);
        if (last == null || index != lastIndex) {
            last = values.computeIfAbsent(index, missing -> maker.get());
            if (values.size() > most && rung + 1 < LADDER.length) {
                coarser();
                index = Math.floorDiv(moment, LADDER[rung]);
                last = values.get(index);
            }
            lastIndex = index;
        }
        return last;
    }

    /** Adds the values of others. */
    void add(Steps<V> others) {
        while (rung < others.rung) {
            coarser();
        }
        long factor = LADDER[rung] / LADDER[others.rung];
        for (Map.Entry<Long, V> other : others.values.entrySet()) {
            values.merge(Math.floorDiv(other.getKey(), factor), other.getValue(), merger);
        }
        last = null;
        while (values.size() > most && rung + 1 < LADDER.length) {
            coarser();
        }
    }

    /** Writes one value. */
    interface Writing<V> {
        void write(V value, StateWriter to) throws IOException;
    }

    /** Reads one value. */
    interface Reading<V> {
        V read(StateReader from) throws IOException;
    }

    void write(StateWriter to, Writing<V> writing) throws IOException {
        to.begin().number(rung).begin();
        for (Map.Entry<Long, V> each : values.entrySet()) {
            to.begin().number(each.getKey());
            writing.write(each.getValue(), to);
            to.end();
        }
        to.end().end();
    }

    /** Adds values that were written. */
    void add(StateReader from, Reading<V> reading) throws IOException {
        Steps<V> others = new Steps<>(maker, merger, most);
        from.begin();
        others.rung = (int) Math.max(0, Math.min(from.number(), LADDER.length - 1));
        from.begin();
        while (from.next()) {
            others.values.put(from.number(), reading.read(from));
            from.end();
        }
        from.end();
        add(others);
    }

    /** Replaces each value. */
    void change(UnaryOperator<V> change) {
        values.replaceAll((index, value) -> change.apply(value));
        last = null;
    }

    private void coarser() {
        rung++;
        values = merged(LADDER[rung] / LADDER[rung - 1], 0, 1);
        last = null;
    }

    boolean isEmpty() {
        return values.isEmpty();
    }

    /** Returns the begin of the first step. */
    long first() {
        return values.firstKey() * LADDER[rung];
    }

    /** Returns the shortest usual step with at most this number of steps. */
    long roundStep(int most) {
        for (long step : ROUND) {
            if (step >= LADDER[rung] && step % LADDER[rung] == 0 && (span() - 1) / step < most) {
                return step;
            }
        }
        return span() / (Math.max(1, most - 1) * 7 * DAY) * 7 * DAY + 7 * DAY;
    }

    /** Returns the duration from the first to the last step. */
    private long span() {
        long first = values.firstKey() * LADDER[rung];
        long end = (values.lastKey() + 1) * LADDER[rung];
        return end - first > 0 ? end - first : Long.MAX_VALUE; // one step more than there can be
    }

    /**
     * Returns the shortest step of at least the given length that can be built from the values, without too many steps.
     */
    long possible(Duration step) {
        long given = step.compareTo(Duration.ofNanos(FAR)) < 0 ? step.toNanos() : FAR;
        long nanos = Math.max(Math.max(LADDER[rung], given), span() / MOST_WITH_EMPTY);
        return (nanos + LADDER[rung] - 1) / LADDER[rung] * LADDER[rung];
    }

    /**
     * Returns the values by begin of their step; empty steps are missing.
     *
     * @param zone the time zone of days
     */
    TreeMap<Long, V> by(long step, ZoneId zone) {
        if (step % DAY == 0) {
            return byDays(step / DAY, zone);
        }
        long offset =
                zone.getRules().getOffset(Instant.ofEpochSecond(0, first())).getTotalSeconds() * SECOND;
        return merged(step / LADDER[rung], offset / LADDER[rung], step);
    }

    /** Groups by calendar days of the zone, which may have 23 or 25 hours. */
    private TreeMap<Long, V> byDays(long days, ZoneId zone) {
        TreeMap<Long, V> coarse = new TreeMap<>();
        values.forEach((index, value) -> coarse.merge(beginOfDays(index * LADDER[rung], days, zone), value, merger));
        return coarse;
    }

    private static long beginOfDays(long epochNanos, long days, ZoneId zone) {
        long day = Times.instant(epochNanos).atZone(zone).toLocalDate().toEpochDay();
        return Times.epochNanos(LocalDate.ofEpochDay(Math.floorDiv(day, days) * days)
                .atStartOfDay(zone)
                .toInstant());
    }

    /** Returns the begins of all steps from the first to the last one, including empty ones. */
    static List<Long> begins(TreeMap<Long, ?> counted, long step, ZoneId zone) {
        List<Long> begins = new ArrayList<>();
        for (long begin = counted.firstKey(); begin <= counted.lastKey(); begin = next(begin, step, zone)) {
            begins.add(begin);
        }
        return begins;
    }

    /** Returns the begin of the next step. */
    private static long next(long begin, long step, ZoneId zone) {
        // A day and a half later is on the next day, however long a day is.
        return step % DAY == 0 ? beginOfDays(begin + step + DAY / 2, step / DAY, zone) : begin + step;
    }

    /** Returns the values by their begins, as fine as they were recorded. */
    TreeMap<Long, V> all() {
        TreeMap<Long, V> all = new TreeMap<>();
        values.forEach((index, value) -> all.put(index * LADDER[rung], value));
        return all;
    }

    /** Combines steps into longer ones with an offset. */
    private TreeMap<Long, V> merged(long factor, long shift, long length) {
        TreeMap<Long, V> coarse = new TreeMap<>();
        long back = shift * (length / factor);
        for (Map.Entry<Long, V> fine : values.entrySet()) {
            coarse.merge(Math.floorDiv(fine.getKey() + shift, factor) * length - back, fine.getValue(), merger);
        }
        return coarse;
    }
}
