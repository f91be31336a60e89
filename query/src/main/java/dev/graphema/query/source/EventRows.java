package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Iterator;

/** Rows of complete events, for sources that have these. */
public final class EventRows extends WholeEvents {
    private final Iterator<Event> events;
    private final CoverageBuilder coverage;
    private final Closeable source;
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
        super(projection);
        this.source = source;
        this.events = events;
        this.position = before;
        this.coverage = coverage;
    }

    @Override
    public boolean advance() throws IOException {
        try {
            if (!events.hasNext()) {
                return false;
            }
            current(events.next());
        } catch (UncheckedIOException e) {
            throw e.getCause();
        }
        position++;
        coverage.event();
        return true;
    }

    @Override
    public long position() {
        return position;
    }

    @Override
    public void close() throws IOException {
        source.close();
    }
}
