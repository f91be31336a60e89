package dev.graphema.pipeline;

import dev.graphema.event.Event;
import java.io.Closeable;
import java.io.IOException;
import java.util.function.Consumer;

/**
 * Where events wait for a sink's thread: many threads offer, one takes. An offer that fails half-way, because the caller's
 * stack overflows or the heap is full, leaves the hand-over as it was: there is no state between claiming a place and
 * publishing an event.
 */
interface Handover extends Closeable {
    /** Into how many parts the room is divided when some of it shall stay free. */
    int PARTS = 16;

    /**
     * Offers an event, from any thread.
     *
     * @param leaving how many parts of the room must stay free behind it
     * @return false when there is not so much room
     */
    boolean offer(Event event, int leaving);

    /** The next event, or null; for the sink's thread. */
    Event take();

    /** Takes note that all that was taken is out of the sink; for the sink's thread. */
    void written();

    /**
     * Takes all that still waits and is lost with the process. Called when the sink ends, by the sink's thread or in its
     * place.
     *
     * @param lost receives each event that is lost; none when the next start finds the events
     */
    void abandon(Consumer<Event> lost);

    /** Whether the next start finds all events that were not reported as {@link #written}. */
    boolean outlivesProcess();

    /** Up to where was offered; comparable with {@link #takenUpTo}. */
    long offeredUpTo();

    /** Up to where was taken; for the sink's thread. */
    long takenUpTo();

    /** Whether at least half of the room is free. */
    boolean hasRoom();

    boolean isEmpty();

    /** Describes approximately how much is waiting, for messages. */
    String waiting();

    @Override
    default void close() throws IOException {}
}
