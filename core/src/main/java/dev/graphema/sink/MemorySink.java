package dev.graphema.sink;

import dev.graphema.event.Event;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** Keeps the events, for tests and small tools. May be read by any thread at any time. */
public final class MemorySink implements Sink {
    private final List<Event> events = new CopyOnWriteArrayList<>();

    @Override
    public void write(Event event) {
        events.add(event);
    }

    /** What was written so far, oldest first, as a copy. */
    public List<Event> events() {
        return List.copyOf(events);
    }
}
