package dev.graphema.batch;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import java.util.Arrays;
import java.util.Objects;

/** Events in the form of {@link EventBytes}, in order. Reusable; for one thread. */
public final class EventBatch {
    private static final int USUAL_EVENTS = 64;
    private static final int USUAL_BYTES = 16 * 1024;

    /** The longest array that is kept when all events are removed. */
    private static final int MOST_KEPT = 1024 * 1024;

    private final EventRecord record = new EventRecord();

    /** The events of a part begin at this index of the ends. */
    private final int first;

    private byte[] bytes;
    private int[] ends;
    private int count;

    /** Creates an empty batch. */
    public EventBatch() {
        this(new byte[USUAL_BYTES], new int[USUAL_EVENTS], 0, 0);
    }

    private EventBatch(byte[] bytes, int[] ends, int first, int count) {
        this.bytes = bytes;
        this.ends = ends;
        this.first = first;
        this.count = count;
    }

    /** Creates a batch of these events. */
    public static EventBatch of(Event... events) {
        EventBatch batch = new EventBatch();
        EventBytes encoded = new EventBytes();
        for (Event event : events) {
            batch.add(encoded.write(event));
        }
        return batch;
    }

    /** Returns the number of events. */
    public int size() {
        return count;
    }

    public boolean isEmpty() {
        return count == 0;
    }

    /** Returns the number of bytes of all events. */
    public int length() {
        return end() - start(0);
    }

    /**
     * Returns an event, valid until another one is asked for or the batch is changed.
     *
     * @throws IllegalArgumentException as for {@link EventRecord#read}
     */
    public EventRecord get(int index) {
        Objects.checkIndex(index, count);
        return record.read(bytes, start(index), start(index + 1));
    }

    private int start(int index) {
        int before = first + index - 1;
        return before < 0 ? 0 : ends[before];
    }

    /**
     * Returns some of the events, valid until this batch is changed.
     *
     * @param from the index of the first one
     * @param to the index behind the last one
     */
    EventBatch part(int from, int to) {
        Objects.checkFromToIndex(from, to, count);
        return new EventBatch(bytes, ends, first + from, to - from);
    }

    /** Adds an event. */
    public void add(EventBytes event) {
        add(event.array(), 0, event.length());
    }

    /** Adds an event. */
    public void add(EventRecord event) {
        add(event.array(), event.start(), event.length());
    }

    private void add(byte[] array, int from, int length) {
        System.arraycopy(array, from, room(length), end(), length);
        added(length);
    }

    /** Returns an array with room for an event of this length from {@link #end} on, to be written by the caller. */
    public byte[] room(int length) {
        int end = end();
        if (bytes.length - end < length) {
            bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, end + length));
        }
        return bytes;
    }

    /** Returns the index behind the last event. */
    public int end() {
        return start(count);
    }

    /** Adds the event that was written to the {@link #room}. */
    public void added(int length) {
        if (first + count == ends.length) {
            ends = Arrays.copyOf(ends, 2 * ends.length);
        }
        ends[first + count] = end() + length;
        count++;
    }

    /** Removes the first events. */
    public void removeFirst(int events) {
        int dropped = start(events);
        int length = end() - dropped;
        System.arraycopy(bytes, dropped, bytes, 0, length);
        for (int i = events; i < count; i++) {
            ends[i - events] = ends[i] - dropped;
        }
        count -= events;
    }

    /** Removes all events. */
    public void clear() {
        count = 0;
        bytes = bytes.length > MOST_KEPT ? new byte[USUAL_BYTES] : bytes;
    }
}
