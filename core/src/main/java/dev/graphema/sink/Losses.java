package dev.graphema.sink;

import dev.graphema.event.Level;
import java.util.EnumMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLongArray;

/** How many events one sink did not get or could not pass on, by level. Counted by any thread; told by the sink's. */
public final class Losses {
    private static final Level[] LEVELS = Level.values();

    private final AtomicLongArray counts = new AtomicLongArray(LEVELS.length);
    private final long[] told = new long[LEVELS.length];

    public void count(Level level) {
        counts.incrementAndGet(level.ordinal());
    }

    public long total() {
        long sum = 0;
        for (int i = 0; i < LEVELS.length; i++) {
            sum += counts.get(i);
        }
        return sum;
    }

    /** The levels of which something was lost, with the number of events. */
    public Map<Level, Long> byLevel() {
        return since(new long[LEVELS.length]);
    }

    /** What was lost since {@link #told} was called, in the same form; for the sink's thread. */
    public Map<Level, Long> untold() {
        return since(told);
    }

    /** Takes note that these have been told of; for the sink's thread. */
    public void told(Map<Level, Long> losses) {
        losses.forEach((level, count) -> told[level.ordinal()] += count);
    }

    private Map<Level, Long> since(long[] before) {
        Map<Level, Long> losses = new EnumMap<>(Level.class);
        for (int i = 0; i < LEVELS.length; i++) {
            long count = counts.get(i) - before[i];
            if (count > 0) {
                losses.put(LEVELS[i], count);
            }
        }
        return losses;
    }
}
