package dev.graphema.collector.syslog;

import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;

/**
 * Divides a stream into messages (RFC 6587): a message that begins with a digit has its length before it, any other one has a line feed
 * behind it. For one thread.
 */
final class Frames {
    /** RFC 5425 demands 2,048 bytes and recommends 8,192. */
    static final int MOST_BYTES = 64 << 10;

    private static final int BLOCK = 16 << 10;
    private static final int MOST_DIGITS = 9;

    private final InputStream stream;
    private byte[] bytes = new byte[BLOCK];
    private int from;
    private int to;

    /** The bytes of a message that is too long, which are still to be passed over; -1 for up to the next line feed. */
    private long toSkip;

    private long tooLong;
    private boolean isAtEnd;

    Frames(InputStream stream) {
        this.stream = stream;
    }

    /**
     * Waits for more bytes.
     *
     * @return false at the end of the stream
     */
    boolean fill() throws IOException {
        if (from > 0) {
            System.arraycopy(bytes, from, bytes, 0, to - from);
            to -= from;
            from = 0;
        }
        if (to == bytes.length) {
            bytes = Arrays.copyOf(bytes, 2 * bytes.length);
        }
        int count = stream.read(bytes, to, bytes.length - to);
        isAtEnd = count < 0;
        to += Math.max(0, count);
        return !isAtEnd;
    }

    /** Returns the next message without its frame; null if more bytes are needed. */
    byte[] next() {
        while (from < to) {
            if (toSkip != 0) {
                skip();
            } else if (bytes[from] == '\n' || bytes[from] == '\r' || bytes[from] == 0) {
                from++; // some senders write both a length and a line feed
            } else {
                return bytes[from] >= '1' && bytes[from] <= '9' ? counted() : line();
            }
        }
        return null;
    }

    private byte[] counted() {
        long length = 0;
        int at = from;
        while (at < to && at - from < MOST_DIGITS && bytes[at] >= '0' && bytes[at] <= '9') {
            length = 10 * length + bytes[at++] - '0';
        }
        if (at == to && !isAtEnd && at - from < MOST_DIGITS) {
            return null;
        }
        if (at == to || bytes[at] != ' ') {
            return line(); // a text that begins with a digit
        }
        if (length > MOST_BYTES) {
            from = at + 1;
            toSkip = length;
            tooLong++;
            return next();
        }
        if (to - at - 1 < length) {
            return isAtEnd ? taken(at + 1, to, to) : null;
        }
        int end = at + 1 + (int) length;
        return taken(at + 1, end, end);
    }

    private byte[] line() {
        int at = from;
        while (at < to && bytes[at] != '\n') {
            at++;
        }
        if (at - from > MOST_BYTES) {
            tooLong++;
            toSkip = -1;
            return taken(from, from + MOST_BYTES, from + MOST_BYTES);
        }
        if (at == to) {
            return isAtEnd ? taken(from, to, to) : null;
        }
        return taken(from, at, at + 1);
    }

    private byte[] taken(int begin, int end, int next) {
        from = next;
        return Arrays.copyOfRange(bytes, begin, end);
    }

    private void skip() {
        if (toSkip > 0) {
            int count = (int) Math.min(toSkip, to - from);
            from += count;
            toSkip -= count;
            return;
        }
        while (from < to && toSkip < 0) {
            toSkip = bytes[from++] == '\n' ? 0 : toSkip;
        }
    }

    /** Returns the number of messages that were too long since the last call. */
    long takeTooLong() {
        long count = tooLong;
        tooLong = 0;
        return count;
    }
}
