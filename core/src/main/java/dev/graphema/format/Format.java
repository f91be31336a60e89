package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.text.Utf8Buffer;

/**
 * Writes events as bytes. Called by one thread at a time, that of the sink; must neither block nor keep the buffer. The
 * output must contain exactly one record for each event, independent of its content.
 */
@FunctionalInterface
public interface Format {
    void write(Event event, Utf8Buffer to);

    /**
     * As above, for an event in the form in which it left the calling thread. A format can override this, and then
     * creates no objects.
     */
    default void write(EventRecord event, Utf8Buffer to) {
        write(event.event(), to);
    }
}
