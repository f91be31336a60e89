package dev.graphema.sink;

import dev.graphema.event.Event;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** Keeps events in memory, for tests and small tools. Can be read by any thread. */
public final class MemorySink implements Sink {
    private final List<Event> events = new CopyOnWriteArrayList<>();

    @Override
    public void write(Event event) {
        events.add(event);
    }

    /** Returns a copy of the events, oldest first. */
    public List<Event> events() {
        return List.copyOf(events);
    }
}
