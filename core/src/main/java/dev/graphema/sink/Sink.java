package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import java.io.IOException;
import java.time.Duration;

/**
 * Writes events to a destination. All methods are called by one thread, which serves only this sink. A sink may block,
 * and its exceptions are reported and counted but do not affect anything else. Events are immutable and may be kept.
 */
@FunctionalInterface
public interface Sink {
    /**
     * Writes the event, or adds it to a batch that {@link #flush} writes. If this throws an exception, the event was
     * not accepted.
     */
    void write(Event event) throws IOException;

    /**
     * As above, for an event in the form in which it left the calling thread. A sink that formats events can override
     * this, and then creates no objects. The record is valid only during the call.
     */
    default void write(EventRecord event) throws IOException {
        write(event.event());
    }

    /**
     * Writes all accepted events. Called after each batch of at most some hundred events, and at the end. If it throws
     * an {@link IOException}, it is called again later; the sink should keep what it could not write.
     *
     * @throws RefusedException if accepted events are lost and a retry is useless; they are counted
     */
    default void flush() throws IOException {}

    /**
     * Discards all accepted events that are not written. Called if {@link #flush} has failed finally: several times
     * with an exception other than {@link IOException}, or with a {@link RefusedException}; and at the end, if it still
     * fails. The events are counted as lost, and the next {@link #write} starts a new batch.
     *
     * @return the number of discarded events; negative if it is unknown: then all events since the last successful
     *     flush count as lost
     */
    default long discard() {
        return -1;
    }

    /**
     * Returns how long written events may wait before a flush, so that a batch can grow; zero by default. If somebody
     * waits for them, or at the end, they are flushed immediately.
     */
    default Duration patience() {
        return Duration.ZERO;
    }

    /** Returns which events wait on the disk. Called by any thread, for reports. */
    default Backlog backlog() {
        return Backlog.NONE;
    }

    /** Called about once a second while there are no events, for work that depends on the clock. */
    default void idle() throws IOException {}

    /** Releases files and connections, after a last flush. Called once. */
    default void close() throws IOException {}
}
