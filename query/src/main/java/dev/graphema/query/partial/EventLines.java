package dev.graphema.query.partial;

import dev.graphema.event.Event;

/** Reads events from their lines in Graphema JSON. */
@FunctionalInterface
public interface EventLines {
    /**
     * Reads an event.
     *
     * @param place the time that determines its position if it has none, in nanoseconds since 1970
     * @return null if the line is damaged
     */
    Event read(String line, long place);
}
