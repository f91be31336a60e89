package dev.graphema.sink;

import dev.graphema.event.Event;
import java.io.IOException;
import java.util.List;

/**
 * Brings a batch of events to a receiver outside the process. Called by one thread at a time, which may wait for the
 * receiver, but not without a limit; it may be interrupted when the end comes.
 */
@FunctionalInterface
public interface Transmitter {
    /**
     * Returns when the receiver has taken the events. An event may be brought twice, when it was not clear whether the
     * receiver had taken it; its {@link Event#id} is the same then.
     *
     * @param events one at least
     * @throws RetryLaterException when the receiver asks for a pause
     * @throws RefusedException when it will never take these events
     * @throws IOException when it is away or in trouble: the same events come again later
     */
    void send(List<Event> events) throws IOException;

    /** Gives back connections. Called once, by whoever closes the sink. */
    default void close() throws IOException {}
}
