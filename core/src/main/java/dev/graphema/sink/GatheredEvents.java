package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.format.Format;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.util.Arrays;

/** Formatted events that wait to be written, with their ends. For one thread. */
final class GatheredEvents {
    private final Format format;
    private final Utf8Buffer bytes;
    private int[] ends = new int[256];
    private int count;

    GatheredEvents(Format format, int usualBytes) {
        this.format = format;
        this.bytes = new Utf8Buffer(usualBytes);
    }

    /** Adds an event; if the format fails, adds nothing. */
    void add(Event event) {
        makeRoomForEnd();
        boolean isWritten = false;
        try {
            format.write(event, bytes);
            isWritten = true;
        } finally {
            end(isWritten);
        }
    }

    /** As above. */
    void add(EventRecord event) {
        makeRoomForEnd();
        boolean isWritten = false;
        try {
            format.write(event, bytes);
            isWritten = true;
        } finally {
            end(isWritten);
        }
    }

    /** Keeps what was written since the last event, or removes it. */
    private void end(boolean isWritten) {
        if (isWritten) {
            ends[count++] = bytes.length();
        } else {
            bytes.cutBack(count == 0 ? 0 : ends[count - 1]);
        }
    }

    private void makeRoomForEnd() {
        if (count == ends.length) {
            ends = Arrays.copyOf(ends, 2 * count);
        }
    }

    int length() {
        return bytes.length();
    }

    boolean isEmpty() {
        return bytes.length() == 0;
    }

    int count() {
        return count;
    }

    void writeTo(OutputStream stream) throws IOException {
        bytes.writeTo(stream);
    }

    /** Returns the first bytes. */
    ByteBuffer first(int length) {
        return bytes.view().limit(length);
    }

    /**
     * Returns the length of as many complete events as fit.
     *
     * @param room the available bytes
     * @param one whether the first event is taken even if it does not fit
     */
    int fitting(long room, boolean one) {
        int fitting = one && count > 0 ? ends[0] : 0;
        for (int i = 0; i < count && ends[i] <= room; i++) {
            fitting = ends[i];
        }
        return fitting;
    }

    /** Removes the first bytes; the rest of a partly written event is kept. */
    void dropFirst(int length) {
        bytes.dropFirst(length);
        int kept = 0;
        for (int i = 0; i < count; i++) {
            if (ends[i] > length) {
                ends[kept++] = ends[i] - length;
            }
        }
        count = kept;
    }

    /**
     * Removes all events.
     *
     * @return their number
     */
    int clear() {
        int forgotten = count;
        bytes.clear();
        count = 0;
        return forgotten;
    }
}
