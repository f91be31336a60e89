package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.trace.TraceId;
import java.util.Objects;
import java.util.function.Supplier;

/** Rows of which each is a whole event; a source goes to the next one with {@link #current}. For one thread. */
public abstract class WholeEvents implements Rows {
    private final Projection projection;
    private Event event;

    /** @param projection the values of rows */
    protected WholeEvents(Projection projection) {
        this.projection = Objects.requireNonNull(projection, "projection");
    }

    /** Sets the event of the current row. */
    protected final void current(Event event) {
        this.event = event;
    }

    @Override
    public final long time() {
        return event.epochNanos();
    }

    @Override
    public final long weight() {
        return event.weight();
    }

    @Override
    public final TraceId trace() {
        return event.trace();
    }

    @Override
    public final Object value(int index) {
        return projection.value(index, event);
    }

    @Override
    public final Event event() {
        return event;
    }

    @Override
    public final Supplier<Event> keep() {
        Event kept = event;
        return () -> kept;
    }
}
