package dev.graphema.segments.store;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.Rows;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.Iterator;
import java.util.List;
import java.util.function.Supplier;

/** The rows of a log, whose size is bounded, in the order of time; late events are far from their place in it. For one thread. */
final class SortedRows implements Rows {
    private final Iterator<Row> rows;
    private final Projection projection;
    private Row row;

    private record Row(Event event, long time, long position) {}

    private SortedRows(List<Row> rows, Projection projection) {
        this.rows = rows.iterator();
        this.projection = projection;
    }

    /** Reads all rows, and closes them. */
    static SortedRows of(Rows rows, Projection projection) throws IOException {
        List<Row> all = new ArrayList<>();
        try (rows) {
            while (rows.advance()) {
                all.add(new Row(rows.event(), rows.time(), rows.position()));
            }
        }
        all.sort(Comparator.comparingLong(Row::time).thenComparingLong(Row::position));
        return new SortedRows(all, projection);
    }

    @Override
    public boolean advance() {
        row = rows.hasNext() ? rows.next() : null;
        return row != null;
    }

    @Override
    public long time() {
        return row.time();
    }

    @Override
    public long weight() {
        return row.event().weight();
    }

    @Override
    public TraceId trace() {
        return row.event().trace();
    }

    @Override
    public Object value(int index) {
        return projection.value(index, row.event());
    }

    @Override
    public Event event() {
        return row.event();
    }

    @Override
    public long position() {
        return row.position();
    }

    @Override
    public Supplier<Event> keep() {
        Event kept = row.event();
        return () -> kept;
    }

    @Override
    public void close() {
        // the rows were closed when they were read
    }
}
