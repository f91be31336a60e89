package dev.graphema.query.partial;

import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.util.List;
import java.util.function.Supplier;

/** The events next to an event whose place is known. */
public final class Neighbours extends Transferable implements Partial<EventContext> {
    private final PlacedEvent event;
    private final int count;
    private final FirstEvents before;
    private final FirstEvents after;
    private long shift;

    private Neighbours(PlacedEvent event, int count, Projection shown) {
        this.event = event;
        this.count = count;
        before = new FirstEvents(Ask.Order.NEWEST, count, shown);
        after = new FirstEvents(Ask.Order.OLDEST, count, shown);
    }

    /**
     * Returns how they are found.
     *
     * @param count the most events before it, and the most after it
     */
    public static Aggregation<EventContext> of(PlacedEvent event, int count) {
        return new Aggregation<>(Projection.of(List.of()), () -> new Neighbours(event, count, Projection.ALL));
    }

    @Override
    public void add(EventRow row, long order) {
        int compared = row.time() == event.time()
                ? Long.compare(shift + order, event.order())
                : Long.compare(row.time(), event.time());
        if (compared < 0) {
            before.add(row, order);
        } else if (compared > 0) {
            after.add(row, order);
        }
    }

    @Override
    public void shift(long by) {
        shift += by;
        before.shift(by);
        after.shift(by);
    }

    @Override
    public Neighbours merge(Partial<EventContext> other) {
        Neighbours more = (Neighbours) other;
        before.merge(more.before);
        after.merge(more.after);
        return this;
    }

    /** Returns the place of the event as the source of further events counts it, and the most events before and after it. */
    String place() {
        return event.time() + ":" + (event.order() - shift) + ":" + count;
    }

    @Override
    Ask<?> ask() {
        throw new UnsupportedOperationException("the neighbours of a place are no question");
    }

    @Override
    void write(StateWriter to) throws IOException {
        before.write(to);
        after.write(to);
    }

    @Override
    void merge(StateReader from) throws IOException {
        before.merge(from);
        after.merge(from);
    }

    @Override
    public EventContext answer(Supplier<Coverage> coverage) {
        List<Event> earlier = before.read();
        List<Event> later = after.read();
        return new EventContext(earlier, event.event().get(), later, coverage.get());
    }
}
