package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import java.io.IOException;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;

/**
 * The events before and after an event. Immutable.
 *
 * @param before the events before it, oldest first
 * @param event the first event that matches the condition; null if there is none
 * @param after the events after it, oldest first
 * @param reading what was read
 */
public record Around(List<Event> before, Event event, List<Event> after, Reading reading) {
    /**
     * Finds the first event, in the order of time, that matches the condition, among those that match the condition of
     * the logs.
     *
     * @param count the most events before it, and after it
     */
    public static Around of(Logs logs, Condition wanted, int count) throws IOException {
        Deque<Event> before = new ArrayDeque<>();
        List<Event> after = new ArrayList<>();
        Event[] found = {null};
        Reading reading = logs.read(event -> {
            if (found[0] != null) {
                if (count > 0) {
                    after.add(event);
                }
                return after.size() < count;
            }
            if (wanted.matches(event)) {
                found[0] = event;
                return count > 0;
            }
            before.add(event);
            if (before.size() > count) {
                before.remove();
            }
            return true;
        });
        return new Around(List.copyOf(before), found[0], List.copyOf(after), reading);
    }
}
