package dev.graphema.pipeline;

import dev.graphema.event.Draft;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.sink.SinkStatus;

/** Delivers events to one sink. */
abstract class Delivery {
    /** What happens to a sink whose queue has been drained. */
    enum Ending {
        /** It is closed. Later events are counted as lost. */
        CLOSE,
        /** It stays open until the JVM halts, and each later event is written at once by its caller. */
        STAY_OPEN
    }

    private final String name;

    final Sink sink;
    final SinkHealth health;

    // For the thread that writes to the sink: its own thread, or the holder of its lock.
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

    /** Returns the number of written events. */
    final long written() {
        return written;
    }

    /** For the thread that writes to the sink: its own thread, or the holder of its lock. */
    final void countWritten(long count) {
        written += count;
    }

    /** Returns the size of the events that wait in the queue, in bytes. */
    abstract long queuedBytes();

    /** Returns the current state. */
    final SinkStatus status() {
        return new SinkStatus(
                health.isWorking(),
                health.since(),
                health.lastError(),
                queuedBytes(),
                sink.backlog(),
                written(),
                health.byLevel());
    }

    /** Hands a completed event over, from any thread. Throws only {@link OutOfMemoryError}; the event is then counted as lost. */
    final void handOver(Draft event) {
        boolean accepted = false;
        try {
            accepted = offer(event);
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            health.error("an event could not be handed over (" + e.getClass().getName() + ")");
        } finally {
            if (!accepted) {
                health.count(event.level());
            }
        }
    }

    /** Takes a completed event, or returns false; the caller then counts it. If it throws, the event was not taken. */
    abstract boolean offer(Draft event);

    /** Starts. A second call has no effect. */
    abstract void start();

    /** Waits until all events that were handed over are written, up to a time of {@link System#nanoTime}. */
    abstract boolean awaitWritten(long by);

    /** Begins to write all remaining events and then to end, by a time of {@link System#nanoTime}. */
    abstract void beginEnd(Ending ending, long by);

    /**
     * Waits for the end that {@link #beginEnd} has begun, until its time is over. Then nothing is queued or in flight: all
     * events were written, are counted as lost, or are in a file that the next start reads. An interrupt does not end the
     * waiting, and is kept.
     *
     * @return whether all accepted events were written
     */
    abstract boolean awaitEnd();

    /** Reports a failure of the sink: the first one, and then each time that their number has doubled. */
    final void failed(Throwable problem, String consequence) {
        failures++;
        if (Long.bitCount(failures) == 1) {
            health.failing("cannot write (" + problem + "), attempt " + failures + "; " + consequence);
        }
    }

    /** Reports that the sink works again, if it has failed before. */
    final void succeeded() {
        if (failures > 0) {
            long count = failures;
            failures = 0;
            health.recovered("writes again, after " + count + (count == 1 ? " failed attempt" : " failed attempts"));
        }
    }

    final long failures() {
        return failures;
    }

    final void closeSink() {
        try {
            sink.close();
        } catch (Throwable e) {
            health.error("could not be closed: " + e);
        }
    }
}
