package dev.graphema.format;

import dev.graphema.event.Event;

/**
 * Writes an event as bytes. A format is called by one thread at a time, the sink's; it must neither block nor keep the
 * buffer. Whatever the event contains, the output must hold exactly one record of the format.
 */
@FunctionalInterface
public interface Format {
    void write(Event event, Utf8Buffer to);
}
