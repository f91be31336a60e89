package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Window;
import dev.graphema.query.partial.Aggregation;
import dev.graphema.query.partial.FirstEvents;
import dev.graphema.query.partial.PlacedEvent;
import dev.graphema.query.row.Projection;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.PriorityQueue;
import java.util.Spliterator;
import java.util.Spliterators;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;

/**
 * Reads the events of a source in the order of time. Parts are merged by the time of the event that each has next; a heap
 * of some thousand events then sorts what is out of order within a part, for example because several threads write to one
 * file. For one thread.
 */
final class OrderedRead implements Closeable {
    /** How far an event may be away from its place, in events of its part. */
    static final int DISORDER = 4096;

    /** The most open parts, unless more are needed at the same time. */
    private static final int MOST_OPEN = 64;

    private final CoverageBuilder coverage;
    private final Condition remaining;
    private final Window during;
    private final boolean canReopen;
    private final List<Head> all = new ArrayList<>();
    private final PriorityQueue<Head> heads = new PriorityQueue<>((one, other) -> one.next.compareTo(other.next));
    private final PriorityQueue<PlacedEvent> waiting = new PriorityQueue<>();
    private int open;

    OrderedRead(EventSelection selection, EventSource source, CoverageBuilder coverage) throws IOException {
        this.coverage = coverage;
        this.during = selection.during();
        this.canReopen = source.capabilities().contains(EventSource.Capability.REPEATED_READING);
        if (!source.capabilities().contains(EventSource.Capability.ORDER)) {
            remaining = Condition.EVERYTHING;
            waiting.addAll(((FirstEvents) QueryExecutor.fill(
                            selection.where(),
                            during,
                            Aggregation.of(new Ask.Events(Ask.Order.OLDEST, Integer.MAX_VALUE), List.of()),
                            source,
                            coverage))
                    .placed());
            return;
        }
        Plan plan = source.plan(new Scan(selection.where(), during, Projection.ALL, true), coverage);
        remaining = plan.remaining();
        try {
            for (Part part : plan.parts()) {
                add(new Head(part));
            }
        } catch (IOException e) {
            close();
            throw e;
        }
    }

    private void add(Head head) throws IOException {
        all.add(head);
        if (head.advance()) {
            heads.add(head);
            // Of very many files, most come one after the other: those whose turn is later need not be open.
            if (open > MOST_OPEN && canReopen) {
                head.close();
            }
        }
    }

    /** Returns the next event, or null if there are no more. */
    Event next() throws IOException {
        while (true) {
            while (!heads.isEmpty() && waiting.size() <= DISORDER) {
                Head head = heads.poll();
                waiting.add(head.next);
                if (head.advance()) {
                    heads.add(head);
                }
            }
            PlacedEvent first = waiting.poll();
            if (first == null) {
                return null;
            }
            Event event = first.event().get();
            if (event != null) {
                return event;
            }
        }
    }

    /** Returns the events as a stream, which closes this when it is closed. */
    Stream<Event> stream() {
        Iterator<Event> iterator = new Iterator<>() {
            private Event next;

            @Override
            public boolean hasNext() {
                if (next == null) {
                    try {
                        next = OrderedRead.this.next();
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
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
        };
        return StreamSupport.stream(
                        Spliterators.spliteratorUnknownSize(iterator, Spliterator.ORDERED | Spliterator.NONNULL), false)
                .onClose(() -> {
                    try {
                        close();
                    } catch (IOException e) {
                        throw new UncheckedIOException(e);
                    }
                });
    }

    @Override
    public void close() throws IOException {
        for (Head head : all) {
            head.close();
        }
    }

    /** A part, which may be closed until it is needed, and its next event. */
    private final class Head {
        private final Part part;
        private Rows rows;
        private CoverageBuilder own;
        private boolean wasOpen;
        private PlacedEvent next;

        Head(Part part) {
            this.part = part;
        }

        boolean advance() throws IOException {
            if (rows == null && !opened()) {
                return false;
            }
            if (!hasNext()) {
                close();
                return false;
            }
            Event event = rows.event();
            next = new PlacedEvent(rows.time(), ParallelScan.order(part, rows), () -> event);
            return true;
        }

        private boolean hasNext() throws IOException {
            while (rows.advance()) {
                if (during.contains(rows.time()) && (remaining.isEverything() || remaining.matches(rows.event()))) {
                    return true;
                }
            }
            return false;
        }

        private boolean opened() throws IOException {
            own = coverage.part();
            try {
                rows = part.open(own);
                open++;
            } catch (IOException e) {
                own.failed(part.name(), "cannot be read: " + ReadErrors.of(e));
                close();
                return false;
            }
            if (wasOpen) {
                hasNext(); // the one event that was taken before the part was closed
                own.restart();
            }
            wasOpen = true;
            return true;
        }

        /** Closes the rows, and adds what was read. */
        void close() throws IOException {
            if (rows != null) {
                open--;
                rows.close();
                rows = null;
            }
            if (own != null) {
                coverage.add(own);
                own = null;
            }
        }
    }
}
