package dev.graphema.sink;

import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.text.Escapes;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.EnumMap;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLongArray;
import java.util.function.Consumer;

/**
 * The state of a sink: lost events by level, and the last error. Written by any thread; losses are reported by the
 * thread of the sink.
 */
public final class SinkHealth {
    private static final Level[] LEVELS = Level.values();

    private final String sink;
    private final Consumer<String> reporter;
    private volatile String lastError;
    private volatile boolean isWorking = true;
    private volatile Instant since = Instant.now();
    private final AtomicLongArray counts = new AtomicLongArray(LEVELS.length);
    private final long[] reported = new long[LEVELS.length];

    /**
     * Creates the initial state.
     *
     * @param sink the name of the sink
     * @param reporter receives each error as one line of plain text that begins with the name of the sink
     */
    public SinkHealth(String sink, Consumer<String> reporter) {
        this.sink = sink;
        this.reporter = reporter;
    }

    /** Records and reports an error: what happened, and what to do. */
    public void error(String text) {
        lastError = Instant.now().truncatedTo(ChronoUnit.MILLIS) + " " + Escapes.visible(text);
        news(text);
    }

    /** Records and reports that the sink cannot write, until it has {@linkplain #recovered recovered}. */
    public void failing(String text) {
        if (isWorking) {
            isWorking = false;
            since = Instant.now();
        }
        error(text);
    }

    /** Reports that the last error is over, and removes it. */
    public void recovered(String text) {
        lastError = null;
        if (!isWorking) {
            isWorking = true;
            since = Instant.now();
        }
        news(text);
    }

    /** Returns whether the sink can write. */
    public boolean isWorking() {
        return isWorking;
    }

    /** Returns since when the sink can write, or cannot. */
    public Instant since() {
        return since;
    }

    /** Reports news that is not an error. */
    public void news(String text) {
        try {
            // Some of the text comes from outside, as a receiver's answer does, and may steer a terminal.
            reporter.accept(Escapes.visible("sink " + sink + ": " + text));
        } catch (Throwable e) {
            // The report itself fails, as when somebody has closed standard error: nobody is left to report it to.
            FailurePolicy.contain(e);
        }
    }

    /** Returns the last error with its time; null if there was none, or it is over. */
    public String lastError() {
        return lastError;
    }

    /** Counts a lost event. */
    public void count(Level level) {
        count(level, 1);
    }

    /** Counts lost events of one level. An event without a level counts as {@link Level#INFO}. */
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

    /** Returns the number of lost events by level. */
    public Map<Level, Long> byLevel() {
        return since(new long[LEVELS.length]);
    }

    /** Returns the number of events lost since {@link #reported} was called, by level; for the thread of the sink. */
    public Map<Level, Long> unreported() {
        return since(reported);
    }

    /** Records that an event has reported these losses; for the thread of the sink. */
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
