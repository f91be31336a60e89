package dev.graphema.pipeline;

import dev.graphema.event.EventBytes;
import dev.graphema.event.Level;
import java.io.Closeable;
import java.io.IOException;
import java.util.function.Consumer;

/**
 * The queue in which events wait for a sink's thread: many threads offer, one takes. If an offer fails half-way, because the
 * stack of the caller overflows or the heap is full, the event was not offered, and the queue is not affected.
 */
interface Handover extends Closeable {
    /** The number of parts into which the capacity is divided, of which some can be left free. */
    int PARTS = 16;

    /** Returns the most bytes of an event that can be offered. */
    int longest();

    /**
     * Offers an event, from any thread.
     *
     * @param leaving how many parts of the capacity must stay free
     * @return false if there is not so much space
     */
    boolean offer(EventBytes event, int leaving);

    /**
     * Moves the next event to the end of the batch; for the sink's thread.
     *
     * @return its level; null if there is no event
     */
    Level take(RecordBatch batch);

    /** Called when all taken events have left the sink; for the sink's thread. */
    void written();

    /**
     * Takes all waiting events that are lost with the process. Called when the sink ends, by the sink's thread or in its
     * place.
     *
     * @param lost receives the level of each lost event; none if the next start finds the events
     */
    void abandon(Consumer<Level> lost);

    /** Returns whether the next start finds all events that were not reported as {@link #written}. */
    boolean outlivesProcess();

    /** Returns the position up to which events were offered; comparable with {@link #takenUpTo}. */
    long offeredUpTo();

    /** Returns the position up to which events were taken; for the sink's thread. */
    long takenUpTo();

    /** Returns whether at least half of the capacity is free. */
    boolean hasRoom();

    boolean isEmpty();

    /** Returns approximately how many bytes of events are waiting. */
    long waitingBytes();

    /** Describes approximately how much is waiting, for messages. */
    String waiting();

    @Override
    default void close() throws IOException {}
}
