package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.trace.TraceId;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Iterator;
import java.util.function.Supplier;

/** Rows of complete events, for sources that have these. */
public final class EventRows implements Rows {
    private final Iterator<Event> events;
    private final Projection projection;
    private final CoverageBuilder coverage;
    private final Closeable source;
    private Event event;
    private long position;

    /**
     * Creates rows.
     *
     * @param events the events
     * @param before the position before the first event, 0 or more
     * @param projection the values of rows
     * @param coverage counts the events
     */
    public EventRows(Iterator<Event> events, long before, Projection projection, CoverageBuilder coverage) {
        this(events, before, projection, coverage, () -> {});
    }

    /**
     * As above.
     *
     * @param events the events; may throw {@link UncheckedIOException}
     * @param source is closed with the rows
     */
    public EventRows(
            Iterator<Event> events, long before, Projection projection, CoverageBuilder coverage, Closeable source) {
        this.source = source;
        this.events = events;
        this.position = before;
        this.projection = projection;
        this.coverage = coverage;
    }

    @Override
    public boolean advance() throws IOException {
        try {
            if (!events.hasNext()) {
                return false;
            }
            event = events.next();
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        position++;
        coverage.event();
        return true;
    }

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
    public Event event() {
        return event;
    }

    @Override
    public long position() {
        return position;
    }

    @Override
    public Supplier<Event> keep() {
        Event kept = event;
        return () -> kept;
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
