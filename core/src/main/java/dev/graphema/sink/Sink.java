package dev.graphema.sink;

import dev.graphema.event.Event;
import java.io.IOException;
import java.time.Duration;

/**
 * Somewhere to write events. All methods are called by one thread, which serves this sink alone: a sink may block, and
 * what it throws is reported and counted, but reaches nobody else. An event is immutable and may be kept.
 */
@FunctionalInterface
public interface Sink {
    /** Writes the event, or takes it into a batch that {@link #flush} ends. When it throws, the event was not taken. */
    void write(Event event) throws IOException;

    /**
     * Writes out what was taken. Called after every batch of at most some hundred events, and before the end. When it
     * throws an {@link IOException}, it is called again later; a sink that can keeps what it could not write.
     *
     * @throws RefusedException when events that were taken are lost, and trying again cannot help; they are counted
     */
    default void flush() throws IOException {}

    /**
     * Drops all that was taken and is not written out. Called after {@link #flush} has failed for good: with another failure
     * than an {@link IOException} several times, or with a {@link RefusedException}; and at the end, when flushing still
     * fails. The events are counted as lost, and the next {@link #write} begins a new batch.
     *
     * @return how many events were dropped; negative when the sink does not know: then all that were taken since the last
     *     successful flush count as lost
     */
    default long discard() {
        return -1;
    }

    /**
     * How long events that were written may wait before they are flushed, so that a batch grows; nothing by default. When
     * somebody waits for them, or the end comes, they are flushed at once.
     */
    default Duration patience() {
        return Duration.ZERO;
    }

    /** Called about every second while there is nothing to write: for what has to happen by the clock. */
    default void idle() throws IOException {}

    /** Gives back files and connections, after a last flush. Called once. */
    default void close() throws IOException {}
}
