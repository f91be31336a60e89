package dev.graphema.segments.log;

import dev.graphema.event.Event;
import dev.graphema.query.source.Rows;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.function.Supplier;

/**
 * Rows of a part of a log, with the positions that they have in the whole log.
 *
 * @param rows the rows
 * @param before what is before the part
 */
public record MovedRows(Rows rows, long before) implements Rows {
    @Override
    public boolean advance() throws IOException {
        return rows.advance();
    }

    @Override
    public long position() {
        return rows.position() + before;
    }

    @Override
    public long time() {
        return rows.time();
    }

    @Override
    public long weight() {
        return rows.weight();
    }

    @Override
    public TraceId trace() {
        return rows.trace();
    }

    @Override
    public Object value(int index) {
        return rows.value(index);
    }

    @Override
    public Event event() {
        return rows.event();
    }

    @Override
    public Supplier<Event> keep() {
        return rows.keep();
    }

    @Override
    public void close() throws IOException {
        rows.close();
    }
}
