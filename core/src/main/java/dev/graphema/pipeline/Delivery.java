package dev.graphema.pipeline;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import java.io.IOException;
import java.util.Map;

/** The way to one sink. */
abstract class Delivery {
    private final String name;

    final Sink sink;
    final SinkHealth health;

    // For whoever writes to the sink: its thread, or the holder of its lock.
    private long failures;
    private volatile long written;

    Delivery(String name, Pipeline.Target target) {
        this.name = name;
        this.sink = target.sink();
        this.health = target.health();
    }

    String name() {
        return name;
    }

    /** How many events were written so far. */
    final long written() {
        return written;
    }

    /** For whoever writes to the sink: its thread, or the holder of its lock. */
    final void countWritten(long count) {
        written += count;
    }

    /** What went wrong last, or null. */
    final String lastTrouble() {
        return health.lastTrouble();
    }

    /** How many events could not be handed over or written so far, by level. */
    Map<Level, Long> lost() {
        return health.byLevel();
    }

    /** Hands an event over, from any thread. Never throws. */
    abstract void handOver(Event event);

    /** Begins to serve. */
    abstract void start();

    /** Waits until everything handed over so far is written, up to the time of {@link System#nanoTime}. */
    abstract boolean awaitWritten(long by);

    /** Asks for what is left to be written and then the end, by the given time of {@link System#nanoTime}. */
    abstract void beginClose(long by);

    /** Waits for the end that {@link #beginClose} asked for; true when all that was accepted is written. */
    abstract boolean awaitClose() throws InterruptedException;

    /** Says that the sink has failed: at the first failure and then ever more rarely, each time at twice the number. */
    final void failed(Throwable problem, String consequence) {
        failures++;
        if (Long.bitCount(failures) == 1) {
            health.trouble("cannot write (" + problem + "), attempt " + failures + "; " + consequence);
        }
    }

    /** Says so when the sink had failed before. */
    final void succeeded() {
        if (failures > 0) {
            health.news("writes again, after " + failures + (failures == 1 ? " failed attempt" : " failed attempts"));
            failures = 0;
        }
    }

    final long failures() {
        return failures;
    }

    final void closeSink() {
        try {
            sink.close();
        } catch (IOException | RuntimeException e) {
            health.trouble("could not be closed: " + e);
        }
    }
}
