package dev.graphema.sink;

import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.format.Escapes;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.EnumMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLongArray;
import java.util.function.Consumer;

/**
 * How one sink fares: how many events it did not get or could not pass on, by level, and what went wrong last. Noted by any
 * thread; losses are told by the sink's.
 */
public final class SinkHealth {
    private static final Level[] LEVELS = Level.values();

    private final String sink;
    private final Consumer<String> reporter;
    private volatile String lastTrouble;
    private final AtomicLongArray counts = new AtomicLongArray(LEVELS.length);
    private final long[] reported = new long[LEVELS.length];

    /**
     * A sink of which nothing is known yet.
     *
     * @param sink its name
     * @param reporter told of every trouble, in one line of plain text that begins with the sink's name
     */
    public SinkHealth(String sink, Consumer<String> reporter) {
        this.sink = sink;
        this.reporter = reporter;
    }

    /** Notes and reports what went wrong, in words that say what happened and what to do. */
    public void trouble(String text) {
        lastTrouble = Instant.now().truncatedTo(ChronoUnit.MILLIS) + " " + Escapes.visible(text);
        news(text);
    }

    /** Reports that the last trouble is over; it is not shown any more. */
    public void recovered(String text) {
        lastTrouble = null;
        news(text);
    }

    /** Reports what is no trouble. */
    public void news(String text) {
        try {
            // Some of the text comes from outside, as a receiver's answer does, and may steer a terminal.
            reporter.accept(Escapes.visible("sink " + sink + ": " + text));
        } catch (Throwable e) {
            // The report itself fails, as when somebody has closed standard error: nobody is left to report it to.
            FailurePolicy.contain(e);
        }
    }

    /** What went wrong last, with its time; null when nothing did, or when it is over. */
    public String lastTrouble() {
        return lastTrouble;
    }

    /** Counts an event that is lost. */
    public void count(Level level) {
        count(level, 1);
    }

    /** Counts events of one level that are lost. An event without a level counts as {@link Level#INFO}. */
    public void count(Level level, long number) {
        counts.addAndGet((level == null ? Level.INFO : level).ordinal(), number);
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

    /** What was lost since {@link #reported} was called, in the same form; for the sink's thread. */
    public Map<Level, Long> unreported() {
        return since(reported);
    }

    /** Notes that these losses were reported by an event; for the sink's thread. */
    public void reported(Map<Level, Long> losses) {
        losses.forEach((level, count) -> reported[level.ordinal()] += count);
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
