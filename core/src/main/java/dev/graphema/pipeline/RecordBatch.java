package dev.graphema.pipeline;

import dev.graphema.batch.EventBatch;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.sink.Sink;
import dev.graphema.spool.Ring;
import java.io.IOException;

/** Events that were taken from a queue and are to be written. For one thread. */
final class RecordBatch {
    private final EventBatch events = new EventBatch();
    private final int most;
    private int next;

    /** @param most the most events */
    RecordBatch(int most) {
        this.most = most;
    }

    /** Removes all events. */
    void clear() {
        next = 0;
        events.clear();
    }

    boolean isFull() {
        return events.size() == most;
    }

    /** Returns how many events are still to be written. */
    int left() {
        return events.size() - next;
    }

    /** Adds an event. */
    void add(EventBytes event) {
        events.add(event);
    }

    /**
     * Takes the next record of a ring, of the given length.
     *
     * @return its level
     * @throws IllegalArgumentException if it is not an event; it is taken nevertheless
     */
    Level take(Ring ring, int length) {
        byte[] bytes = events.room(length);
        int at = events.end();
        ring.copy(bytes, at, length);
        boolean isRepeat = ring.isRepeat();
        ring.advance(length);
        EventRecord.check(bytes, at, at + length);
        if (isRepeat) {
            EventBytes.markAsRepeat(bytes, at);
        }
        events.added(length);
        return EventRecord.level(bytes, at);
    }

    /** Writes the next event to the sink; if that fails, it remains the next one. */
    void writeTo(Sink sink) throws IOException {
        sink.write(events.get(next));
        next++;
    }

    /** Leaves out the next event. */
    void skip() {
        next++;
    }
}
