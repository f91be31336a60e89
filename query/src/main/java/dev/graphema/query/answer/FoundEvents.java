package dev.graphema.query.answer;

import dev.graphema.event.Event;
import java.util.List;

/**
 * Events in the order of time. Immutable.
 *
 * @param events the newest or oldest events, as the question asked; the oldest of them first
 * @param matching the number of matching events
 * @param coverage what was read
 */
public record FoundEvents(List<Event> events, long matching, Coverage coverage) implements Answer {
    public FoundEvents {
        events = List.copyOf(events);
    }
}
