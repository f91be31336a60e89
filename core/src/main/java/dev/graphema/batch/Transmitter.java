package dev.graphema.batch;

import dev.graphema.event.Event;
import dev.graphema.sink.RefusedException;
import java.io.IOException;

/**
 * Sends batches of events to a remote receiver. Called by one thread at a time. It may wait for the receiver, but not
 * without a limit, and may be interrupted at the end.
 */
@FunctionalInterface
public interface Transmitter {
    /**
     * Sends events and returns when the receiver has accepted them. If it is unclear whether the receiver has an event,
     * it is sent again with the same {@link Event#id}.
     *
     * @param events one or more events, valid during the call
     * @throws RetryLaterException if the receiver requests a pause
     * @throws RefusedException if it will never accept the events
     * @throws IOException if it is unavailable or fails: the same events are sent again later
     */
    void send(EventBatch events) throws IOException;

    /** Releases connections. Called once, when the sink is closed. */
    default void close() throws IOException {}
}
