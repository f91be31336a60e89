package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.function.Supplier;

/** The rows that match a condition. */
record FilteredRows(Rows rows, Condition condition) implements Rows {
    @Override
    public boolean advance() throws IOException {
        while (rows.advance()) {
            if (condition.matches(rows.event())) {
                return true;
            }
        }
        return false;
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
    public long position() {
        return rows.position();
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
