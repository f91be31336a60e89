package dev.graphema.remote;

import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.partial.PartialTransfer;
import dev.graphema.query.partial.TransferredEvents;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Scan;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;

/** The events of a collector, oldest first. For one thread. */
final class RemoteEvents implements Iterator<Event>, Closeable {
    private final InputStream stream;
    private final TransferredEvents events;
    private final CoverageBuilder coverage;
    private Event next;
    private boolean isEnded;

    /** @param coverage receives what the collector has read, and can stop the reading */
    RemoteEvents(CollectorClient client, Scan scan, CoverageBuilder coverage) throws IOException {
        this.coverage = coverage;
        this.stream = client.events(new Question<>(
                scan.where(), scan.during(), List.of(), new Ask.Events(Ask.Order.OLDEST, Integer.MAX_VALUE)));
        this.events = PartialTransfer.readEvents(stream, WrittenEvents.reader());
    }

    @Override
    public boolean hasNext() {
        if (next == null && !isEnded) {
            try {
                next = events.next();
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
            if (next == null) {
                coverage.whole().add(events.coverage());
            }
            isEnded = next == null || !coverage.bytes(0);
        }
        return next != null;
    }

    @Override
    public Event next() {
        if (!hasNext()) {
            throw new NoSuchElementException("there are no more events");
        }
        Event event = next;
        next = null;
        return event;
    }

    @Override
    public void close() throws IOException {
        stream.close();
    }
}
