package dev.graphema.sink;

import dev.graphema.event.Event;
import java.util.ArrayList;
import java.util.List;

/** Keeps events in memory, for tests and small tools. Can be read by any thread. */
public final class MemorySink implements Sink {
    private final List<Event> events = new ArrayList<>();

    @Override
    public synchronized void write(Event event) {
        events.add(event);
    }

    /** Returns a copy of the events, oldest first. */
    public synchronized List<Event> events() {
        return List.copyOf(events);
    }
}
