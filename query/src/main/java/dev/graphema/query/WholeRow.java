package dev.graphema.query;

import dev.graphema.event.Event;
import dev.graphema.event.TraceId;
import dev.graphema.query.line.Projection;
import java.util.function.Supplier;

/** A complete event as a row. @param projection the names of its values */
record WholeRow(Event event, Projection projection) implements EventRow {
    @Override
    public long time() {
        return event.epochNanos();
    }

    @Override
    public long weight() {
        return event.weight();
    }

    @Override
    public TraceId trace() {
        return event.trace();
    }

    @Override
    public Object value(int index) {
        return projection.value(index, event);
    }

    @Override
    public Supplier<Event> keep() {
        return () -> event;
    }
}
