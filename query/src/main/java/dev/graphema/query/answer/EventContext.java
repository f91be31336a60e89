package dev.graphema.query.answer;

import dev.graphema.event.Event;
import java.util.List;

/**
 * The events before and after an event. Immutable.
 *
 * @param before the events before it, oldest first
 * @param event the first event, in the order of time, that matches the condition; null if there is none
 * @param after the events after it, oldest first
 * @param coverage what was read
 */
public record EventContext(List<Event> before, Event event, List<Event> after, Coverage coverage) implements Answer {
    public EventContext {
        before = List.copyOf(before);
        after = List.copyOf(after);
    }
}
