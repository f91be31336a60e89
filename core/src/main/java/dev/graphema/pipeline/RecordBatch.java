package dev.graphema.pipeline;

import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.sink.Sink;
import dev.graphema.spool.Ring;
import java.io.IOException;
import java.util.Arrays;

/** Events that were taken from a queue and are to be written, in the form of {@link EventBytes}. For one thread. */
final class RecordBatch {
    private static final int USUAL_BYTES = 64 * 1024;

    /** The longest array that is kept for the next batch. */
    private static final int MOST_KEPT = 1024 * 1024;

    private final int most;
    private final int[] ends;
    private final EventRecord record = new EventRecord();
    private byte[] bytes = new byte[USUAL_BYTES];
    private int next;
    private int count;

    /** @param most the most events */
    RecordBatch(int most) {
        this.most = most;
        this.ends = new int[most];
    }

    /** Removes all events. */
    void clear() {
        next = 0;
        count = 0;
        bytes = bytes.length > MOST_KEPT ? new byte[USUAL_BYTES] : bytes;
    }

    boolean isFull() {
        return count == most;
    }

    /** Returns how many events are still to be written. */
    int left() {
        return count - next;
    }

    /** Adds an event. */
    void add(EventBytes event) {
        int at = room(event.length());
        System.arraycopy(event.array(), 0, bytes, at, event.length());
        ends[count++] = at + event.length();
    }

    /**
     * Takes the next record of a ring, of the given length.
     *
     * @return its level
     * @throws IllegalArgumentException if it is not an event; it is taken nevertheless
     */
    Level take(Ring ring, int length) {
        int at = room(length);
        ring.copy(bytes, at, length);
        boolean isRepeat = ring.isRepeat();
        ring.advance(length);
        EventRecord.check(bytes, at, at + length);
        if (isRepeat) {
            EventBytes.markAsRepeat(bytes, at);
        }
        ends[count++] = at + length;
        return EventRecord.level(bytes, at);
    }

    /** Writes the next event to the sink; if that fails, it remains the next one. */
    void writeTo(Sink sink) throws IOException {
        sink.write(record.read(bytes, next == 0 ? 0 : ends[next - 1], ends[next]));
        next++;
    }

    /** Leaves out the next event. */
    void skip() {
        next++;
    }

    /** @return the index of the first free byte */
    private int room(int more) {
        int at = count == 0 ? 0 : ends[count - 1];
        if (bytes.length - at < more) {
            bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, at + more));
        }
        return at;
    }
}
