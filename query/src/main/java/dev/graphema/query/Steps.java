package dev.graphema.query;

import dev.graphema.event.Times;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.BinaryOperator;
import java.util.function.Supplier;

/**
 * Values by steps of time, of which it is not known beforehand how many there will be: they begin fine, and become coarser when there are too many. For
 * one thread.
 *
 * @param <V> what is gathered in a step
 */
final class Steps<V> {
    private static final long MILLI = 1_000_000L;
    private static final long SECOND = 1_000 * MILLI;
    private static final long MINUTE = 60 * SECOND;
    private static final long HOUR = 60 * MINUTE;
    private static final long DAY = 24 * HOUR;

    /** How long a step may be, each a multiple of the one before. */
    private static final long[] LADDER = {
        MILLI, 10 * MILLI, 100 * MILLI, SECOND, 10 * SECOND, MINUTE, 10 * MINUTE, HOUR, DAY
    };

    /** Steps that people count in. */
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

    /** As far from 1970 as moments are told apart, so that no sum of a moment and a step is too large: 1824 to 2116. Beyond are no logs, but wrong clocks. */
    private static final long FAR = Long.MAX_VALUE / 2;

    private static final int MOST = 20_000;

    /** How many steps there may be in the end, empty ones included: one wrong time makes a log as long as centuries. */
    private static final int MOST_WITH_EMPTY = 1_000_000;

    private final Supplier<V> maker;
    private final BinaryOperator<V> merger;
    private int rung;
    private TreeMap<Long, V> values = new TreeMap<>();

    // The step in which the last moment lay: in sorted logs, the next one does so, too.
    private long lastIndex;
    private V last;

    /** @param merger puts two steps' values together; may change and return the first */
    Steps(Supplier<V> maker, BinaryOperator<V> merger) {
        this.maker = maker;
        this.merger = merger;
    }

    /** Gathers no finer than steps of that length can be made of, so that there is less to put together; to be said before the first value. */
    Steps<V> madeFor(Duration step) {
        long nanos = Duration.ofSeconds(step.getSeconds() % 86_400, step.getNano())
                .toNanos(); // of days, any number is made of minutes
        while (LADDER[rung] < LONGEST_BEFORE_ZONES_MATTER && nanos % LADDER[rung + 1] == 0) {
            rung++;
        }
        return this;
    }

    /** The value of the step in which the moment lies. */
    V at(long epochNanos) {
        long moment = Math.max(-FAR, Math.min(epochNanos, FAR));
        long index = Math.floorDiv(moment, LADDER[rung]);
        if (last == null || index != lastIndex) {
            last = values.computeIfAbsent(index, missing -> maker.get());
            if (values.size() > MOST && rung + 1 < LADDER.length) {
                coarser();
                index = Math.floorDiv(moment, LADDER[rung]);
                last = values.get(index);
            }
            lastIndex = index;
        }
        return last;
    }

    /** Adds what others have gathered. */
    void add(Steps<V> others) {
        while (rung < others.rung) {
            coarser();
        }
        long factor = LADDER[rung] / LADDER[others.rung];
        for (Map.Entry<Long, V> other : others.values.entrySet()) {
            values.merge(Math.floorDiv(other.getKey(), factor), other.getValue(), merger);
        }
        last = null;
        while (values.size() > MOST && rung + 1 < LADDER.length) {
            coarser();
        }
    }

    private void coarser() {
        rung++;
        values = merged(LADDER[rung] / LADDER[rung - 1], 0, 1);
        last = null;
    }

    boolean isEmpty() {
        return values.isEmpty();
    }

    /** The beginning of the first step. */
    long first() {
        return values.firstKey() * LADDER[rung];
    }

    /** The shortest round step by which there are no more than so many. */
    long roundStep(int most) {
        for (long step : ROUND) {
            if (step >= LADDER[rung] && step % LADDER[rung] == 0 && (span() - 1) / step < most) {
                return step;
            }
        }
        return span() / (Math.max(1, most - 1) * 7 * DAY) * 7 * DAY + 7 * DAY;
    }

    /** From the beginning of the first step to the end of the last. */
    private long span() {
        long first = values.firstKey() * LADDER[rung];
        long end = (values.lastKey() + 1) * LADDER[rung];
        return end - first > 0 ? end - first : Long.MAX_VALUE; // one step more than there can be
    }

    /** The shortest step that is as long as the one given, or longer, can be made of what was gathered, and does not make too many. */
    long possible(Duration step) {
        long given = step.compareTo(Duration.ofNanos(FAR)) < 0 ? step.toNanos() : FAR;
        long nanos = Math.max(Math.max(LADDER[rung], given), span() / MOST_WITH_EMPTY);
        return (nanos + LADDER[rung] - 1) / LADDER[rung] * LADDER[rung];
    }

    /**
     * The values by their step's beginning; steps in which there is nothing are missing.
     *
     * @param zone where a day begins at midnight
     */
    TreeMap<Long, V> by(long step, ZoneId zone) {
        if (step % DAY == 0) {
            return byDays(step / DAY, zone);
        }
        long offset =
                zone.getRules().getOffset(Instant.ofEpochSecond(0, first())).getTotalSeconds() * SECOND;
        return merged(step / LADDER[rung], offset / LADDER[rung], step);
    }

    /** By days of the zone's own calendar, which may have 23 or 25 hours. */
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

    /** The beginning of the step behind one that begins there. */
    static long next(long begin, long step, ZoneId zone) {
        // A day and a half later is on the next day, however long a day is.
        return step % DAY == 0 ? beginOfDays(begin + step + DAY / 2, step / DAY, zone) : begin + step;
    }

    /** The values by their beginnings, as fine as they were gathered. */
    TreeMap<Long, V> all() {
        TreeMap<Long, V> all = new TreeMap<>();
        values.forEach((index, value) -> all.put(index * LADDER[rung], value));
        return all;
    }

    /** So many steps as one each, which begin so many later; each by its number times how long it is, as far back as they were shifted. */
    private TreeMap<Long, V> merged(long factor, long shift, long length) {
        TreeMap<Long, V> coarse = new TreeMap<>();
        long back = shift * (length / factor);
        for (Map.Entry<Long, V> fine : values.entrySet()) {
            coarse.merge(Math.floorDiv(fine.getKey() + shift, factor) * length - back, fine.getValue(), merger);
        }
        return coarse;
    }
}
