package dev.graphema.lines.json;

import dev.graphema.lines.shape.LineShape;
import java.io.Closeable;
import java.io.IOException;
import java.io.InputStream;
import java.util.Arrays;

/**
 * Splits a stream of bytes into lines. A line ends with a line feed, perhaps preceded by a carriage return, or with the
 * stream. Lines are limited in length. For one thread.
 */
public final class LineReader implements Closeable {

    /** The most lines that are skipped per call. */
    private static final int STEP = 64;

    private final InputStream stream;
    private final int maxLine;

    /** The buffer, followed by a line feed, so that a search need not check the end. */
    private byte[] bytes = new byte[256 * 1024];

    private int from;
    private int to;
    private int lineStart;
    private int lineEnd;
    private long number;

    /** The bytes of the stream before those in the buffer. */
    private long before;

    private boolean tooLong;
    private long passedOver;

    public LineReader(InputStream stream) {
        this(stream, LineShape.MAX_LINE);
    }

    /** @param maxLine the longest line in bytes */
    LineReader(InputStream stream, int maxLine) {
        this.stream = stream;
        this.maxLine = maxLine;
        endsAt(0);
    }

    /**
     * Moves to the next line.
     *
     * @return false if there is none
     */
    public boolean next() throws IOException {
        tooLong = false;
        int searched = 0;
        while (true) {
            int feed = Bytes.next('\n', bytes, from + searched);
            if (feed < to) {
                tooLong = feed - from > maxLine;
                return line(feed, feed + 1);
            }
            searched = to - from;
            if (searched > maxLine) {
                return cutLine();
            }
            if (!fill()) {
                return to > from && line(to, to);
            }
        }
    }

    /**
     * Moves to the next line that the filter accepts; the filter applies to Graphema JSON only, so that damage in other
     * lines is found by every search.
     *
     * @return false if there is none
     */
    public boolean next(LineFilter filter) throws IOException {
        passedOver = 0;
        while (true) {
            int count = passOver(filter);
            passedOver += count;
            if (count == STEP) {
                continue;
            }
            if (!next()) {
                return false;
            }
            boolean isOwn = !tooLong && isInBraces() && LinePrefix.isOwn(bytes, lineStart, lineEnd);
            if (!isOwn || filter.mayMatch(bytes, lineStart, lineEnd)) {
                return true;
            }
            passedOver++;
        }
    }

    /**
     * Skips complete lines in braces in the buffer.
     *
     * @return their number. A small method that is called often is compiled early.
     */
    private int passOver(LineFilter filter) {
        int count = 0;
        int start = from;
        while (count < STEP) {
            int feed = Bytes.next('\n', bytes, start);
            if (feed >= to
                    || feed == start
                    || bytes[start] != '{'
                    || bytes[feed - 1] != '}'
                    || feed - start > maxLine
                    || !LinePrefix.isOwn(bytes, start, feed)
                    || filter.mayMatch(bytes, start, feed)) {
                break;
            }
            start = feed + 1;
            count++;
        }
        from = start;
        number += count;
        return count;
    }

    /** Returns how many lines {@link #next(LineFilter)} has skipped. */
    public long passedOver() {
        return passedOver;
    }

    /** Returns the array with the line, from {@link #start()} to {@link #end()}, valid until the next call. */
    public byte[] bytes() {
        return bytes;
    }

    public int start() {
        return lineStart;
    }

    public int end() {
        return lineEnd;
    }

    /** Returns the position of the line in the stream, in bytes; of a line in braces, that of its brace. */
    public long position() {
        return before + lineStart;
    }

    /** Returns the number of the line, counted from 1. */
    public long number() {
        return number;
    }

    /** Returns whether the line was longer than the limit and was cut. */
    public boolean isTooLong() {
        return tooLong;
    }

    public boolean isBlank() {
        for (int i = lineStart; i < lineEnd; i++) {
            if (!isBlank(bytes[i])) {
                return false;
            }
        }
        return true;
    }

    /** Returns whether more can be read without waiting. */
    public boolean isMoreAtHand() throws IOException {
        return from < to || stream.available() > 0;
    }

    /** Returns whether the line is in braces, as a JSON object is. */
    public boolean isInBraces() {
        return lineEnd > lineStart && bytes[lineStart] == '{' && bytes[lineEnd - 1] == '}';
    }

    /** Returns whether the line begins as a JSON object, independent of its end. */
    public boolean isObject() {
        if (lineEnd <= lineStart || bytes[lineStart] != '{') {
            return false;
        }
        int at = lineStart + 1;
        while (at < lineEnd && (isBlank(bytes[at]) || bytes[at] == '\r')) {
            at++;
        }
        return at < lineEnd && (bytes[at] == '"' || bytes[at] == '}');
    }

    @Override
    public void close() throws IOException {
        stream.close();
    }

    private boolean line(int end, int next) {
        lineStart = from;
        lineEnd = end > lineStart && bytes[end - 1] == '\r' ? end - 1 : end;
        if (lineEnd > lineStart && (bytes[lineStart] != '{' || bytes[lineEnd - 1] != '}')) {
            trim();
        }
        from = next;
        number++;
        return true;
    }

    /**
     * Removes what may surround a line: a byte order mark, in a file that was concatenated from others; NULs, in a file
     * that was truncated while it was written; and spaces around an object.
     */
    private void trim() {
        int start = lineStart;
        int end = lineEnd;
        while (start < end && (isBlank(bytes[start]) || isByteOrderMark(start, end))) {
            start += isBlank(bytes[start]) ? 1 : 3;
        }
        while (end > start && isBlank(bytes[end - 1])) {
            end--;
        }
        boolean isObject = start < end && bytes[start] == '{';
        boolean beginsWithMark = isByteOrderMark(lineStart, lineEnd) || lineEnd > lineStart && bytes[lineStart] == 0;
        lineStart = isObject || beginsWithMark ? start : lineStart;
        lineEnd = isObject && bytes[end - 1] == '}' ? end : lineEnd;
    }

    private static boolean isBlank(byte b) {
        return b == ' ' || b == '\t' || b == 0;
    }

    private boolean isByteOrderMark(int at, int end) {
        return end - at >= 3
                && bytes[at] == (byte) 0xEF
                && bytes[at + 1] == (byte) 0xBB
                && bytes[at + 2] == (byte) 0xBF;
    }

    private boolean cutLine() throws IOException {
        tooLong = true;
        byte[] rest = new byte[64 * 1024];
        line(to, to);
        for (int count; (count = stream.read(rest)) >= 0; before += count) {
            for (int i = 0; i < count; i++) {
                if (rest[i] == '\n') {
                    int more = count - i - 1;
                    bytes = Arrays.copyOf(bytes, Math.max(bytes.length, to + more + 1 + Bytes.BEHIND));
                    System.arraycopy(rest, i + 1, bytes, to, more);
                    endsAt(to + more);
                    before += i + 1;
                    return true;
                }
            }
        }
        return true;
    }

    private boolean fill() throws IOException {
        if (from > 0) {
            System.arraycopy(bytes, from, bytes, 0, to - from);
            to -= from;
            before += from;
            from = 0;
        } else if (to == bytes.length - 1 - Bytes.BEHIND) {
            bytes = Arrays.copyOf(bytes, bytes.length * 2);
        }
        int count = stream.read(bytes, to, bytes.length - to - 1 - Bytes.BEHIND);
        endsAt(to + Math.max(0, count));
        return count >= 0;
    }

    private void endsAt(int end) {
        to = end;
        bytes[end] = '\n';
    }
}
