package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import java.io.Closeable;
import java.io.IOException;

/** Passes on the events of a source while they arrive. For one thread. */
public interface Following extends Closeable {
    /** Receives what arrives. */
    interface Listener {
        /** A matching event. */
        void event(Event event);

        /** A line, message or row that is not an event. */
        default void foreign(String text) {}
    }

    /**
     * Passes on what has arrived since the last call. Streams wait until something arrives; files do not wait.
     *
     * @return false if nothing more can arrive
     * @throws IOException if the source cannot be read
     */
    boolean poll(Listener listener) throws IOException;

    /** Returns what was read so far. */
    Coverage coverage();
}
