package dev.graphema.query.partial;

import dev.graphema.event.Event;
import java.io.IOException;
import java.util.function.Supplier;

/**
 * An event with its place in the order of time. Events of the same time keep the order of their source.
 *
 * @param time the time, in nanoseconds since 1970
 * @param order the order of events of the same time
 * @param event returns the complete event, or null if it is damaged
 */
public record PlacedEvent(long time, long order, Supplier<Event> event) implements Comparable<PlacedEvent> {
    void write(StateWriter to) throws IOException {
        Event complete = event.get();
        to.begin().number(time).number(order);
        if (complete == null) {
            to.text(null);
        } else {
            to.event(complete);
        }
        to.end();
    }

    static PlacedEvent read(StateReader from) throws IOException {
        from.begin();
        PlacedEvent read = afterBegin(from);
        from.end();
        return read;
    }

    static PlacedEvent afterBegin(StateReader from) throws IOException {
        long time = from.number();
        long order = from.number();
        Event event = from.event(time);
        return new PlacedEvent(time, order, () -> event);
    }

    PlacedEvent shifted(long by) {
        return by == 0 ? this : new PlacedEvent(time, order + by, event);
    }

    @Override
    public int compareTo(PlacedEvent other) {
        return time == other.time ? Long.compare(order, other.order) : Long.compare(time, other.time);
    }
}
