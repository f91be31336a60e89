package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.format.Utf8Buffer;
import java.nio.ByteBuffer;
import java.util.Arrays;

/** Formatted events that wait to be written, and where each of them ends. For one thread. */
final class GatheredEvents {
    private final Format format;
    private final Utf8Buffer bytes;
    private int[] ends = new int[256];
    private int count;

    GatheredEvents(Format format, int usualBytes) {
        this.format = format;
        this.bytes = new Utf8Buffer(usualBytes);
    }

    /** Adds an event; when the format fails, nothing is added. */
    void add(Event event) {
        int before = bytes.length();
        try {
            format.write(event, bytes);
            if (count == ends.length) {
                ends = Arrays.copyOf(ends, 2 * count);
            }
        } catch (Throwable e) {
            bytes.cutBack(before);
            throw e;
        }
        ends[count++] = bytes.length();
    }

    int length() {
        return bytes.length();
    }

    boolean isEmpty() {
        return bytes.length() == 0;
    }

    /** The first so many bytes. */
    ByteBuffer first(int length) {
        return bytes.view().limit(length);
    }

    /**
     * The length of as many whole events as fit.
     *
     * @param room how many bytes there is room for
     * @param one whether the first event is taken even when it does not fit
     */
    int fitting(long room, boolean one) {
        int fitting = one && count > 0 ? ends[0] : 0;
        for (int i = 0; i < count && ends[i] <= room; i++) {
            fitting = ends[i];
        }
        return fitting;
    }

    /** Forgets the first so many bytes; of an event that was written in part, the rest stays. */
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

    /** Forgets all events. @return how many there were */
    int clear() {
        int forgotten = count;
        bytes.clear();
        count = 0;
        return forgotten;
    }
}
