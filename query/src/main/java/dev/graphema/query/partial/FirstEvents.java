package dev.graphema.query.partial;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.util.List;
import java.util.Objects;
import java.util.PriorityQueue;
import java.util.function.Supplier;

/** The newest or oldest of all added events, or the first or last ones, and the number of added events. */
public final class FirstEvents extends Transferable implements Partial<FoundEvents> {
    private final Ask.Order wanted;
    private final boolean isNewest;
    private final boolean isBySource;
    private final int limit;
    private final Projection shown;
    /** The kept events; the first one is the one to be removed next. */
    private final PriorityQueue<PlacedEvent> events;

    private long matching;
    private long shift;

    /** @param shown the values of found events */
    FirstEvents(Ask.Order order, int limit, Projection shown) {
        this.wanted = order;
        this.isNewest = order == Ask.Order.NEWEST || order == Ask.Order.LAST;
        this.isBySource = order.isBySource();
        this.limit = limit;
        this.shown = shown;
        this.events = isNewest ? new PriorityQueue<>() : new PriorityQueue<>((one, other) -> other.compareTo(one));
    }

    @Override
    public void add(EventRow row, long order) {
        matching++;
        // Most events that are among the first for now will not be in the end, and need not be read completely.
        long time = isBySource ? 0 : row.time();
        if (isAmong(time, shift + order)) {
            keep(new PlacedEvent(time, shift + order, row.keep()));
        }
    }

    @Override
    public void shift(long by) {
        shift += by;
    }

    /** Counts events that are not among the first, for sources that select on their own. */
    public void count(long events) {
        matching += events;
    }

    /** Returns what is asked. */
    public Ask.Events asked() {
        return ask();
    }

    /** Adds an event without counting it. */
    private void keep(PlacedEvent event) {
        if (isAmong(event.time(), event.order())) {
            events.add(event);
            if (events.size() > limit) {
                events.remove();
            }
        }
    }

    private boolean isAmong(long time, long order) {
        if (events.size() < limit) {
            return true;
        }
        PlacedEvent last = events.peek();
        if (limit == 0 || last == null) {
            return false;
        }
        boolean isLater = time == last.time() ? order > last.order() : time > last.time();
        return isLater == isNewest;
    }

    @Override
    public FirstEvents merge(Partial<FoundEvents> other) {
        FirstEvents more = (FirstEvents) other;
        more.events.forEach(this::keep);
        matching += more.matching;
        return this;
    }

    @Override
    Ask.Events ask() {
        return new Ask.Events(wanted, limit);
    }

    /** Returns the names of the values of found events; empty if all are shown. */
    List<Name> fields() {
        return shown.isAll() ? List.of() : shown.listed();
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.number(matching).begin();
        for (PlacedEvent placed : placed()) {
            Event projected = complete(placed);
            new PlacedEvent(placed.time(), placed.order(), () -> projected).write(to);
        }
        to.end();
    }

    @Override
    void merge(StateReader from) throws IOException {
        matching += from.number();
        from.begin();
        while (from.next()) {
            keep(PlacedEvent.afterBegin(from).shifted(shift));
            from.end();
        }
    }

    /** Returns the number of added events. */
    public long matching() {
        return matching;
    }

    /** Returns the kept events in their order, to be read when needed. */
    public List<PlacedEvent> placed() {
        return events.stream().sorted().toList();
    }

    /** Reads an event with its shown values; null if it is damaged, which is recorded. */
    public Event complete(PlacedEvent placed) {
        Event event = placed.event().get();
        return event == null ? null : shown.project(event);
    }

    /** Returns the kept events, read completely. */
    public List<Event> read() {
        return placed().stream().map(this::complete).filter(Objects::nonNull).toList();
    }

    @Override
    public FoundEvents answer(Supplier<Coverage> coverage) {
        List<Event> read = read();
        return new FoundEvents(read, matching, coverage.get());
    }
}
