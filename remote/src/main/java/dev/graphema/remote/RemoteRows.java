package dev.graphema.remote;

import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.partial.PartialTransfer;
import dev.graphema.query.partial.TransferredEvents;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.query.source.Scan;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.io.InputStream;
import java.util.List;
import java.util.function.Supplier;

/** The events of a collector, oldest first. For one thread. */
final class RemoteRows implements Rows {
    private final InputStream stream;
    private final TransferredEvents events;
    private final Projection projection;
    private final CoverageBuilder coverage;
    private Event event;
    private long position;

    RemoteRows(CollectorClient client, Scan scan, CoverageBuilder coverage) throws IOException {
        this.coverage = coverage;
        this.projection = scan.projection();
        this.stream = client.events(new Question<>(
                scan.where(), scan.during(), List.of(), new Ask.Events(Ask.Order.OLDEST, Integer.MAX_VALUE)));
        this.events = PartialTransfer.readEvents(stream, WrittenEvents.reader());
    }

    @Override
    public boolean advance() throws IOException {
        event = events.next();
        if (event == null) {
            coverage.whole().add(events.coverage());
            return false;
        }
        position++;
        return coverage.bytes(0);
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
        stream.close();
    }
}
