package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.util.Objects;
import java.util.function.Supplier;

/** Rows that are those of another part, except for what a subclass changes. For one thread. */
public abstract class ForwardingRows implements Rows {
    private final Rows rows;

    protected ForwardingRows(Rows rows) {
        this.rows = Objects.requireNonNull(rows, "rows");
    }

    @Override
    public boolean advance() throws IOException {
        return rows.advance();
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
