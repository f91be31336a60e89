package dev.graphema.segments.log;

import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.Arrays;

/** Lines that are added to a log together, in the array from which they are written. Reusable; for one thread at a time. */
public final class LogBatch {
    /** The longest array that is kept for the next batch. */
    private static final int MOST_KEPT = 1 << 20;

    private static final int USUAL = 64 << 10;

    private byte[] bytes = new byte[USUAL];
    private int end = LogForm.BATCH_HEADER;

    /** Removes all lines. */
    public LogBatch clear() {
        if (bytes.length > MOST_KEPT) {
            bytes = new byte[USUAL];
        }
        end = LogForm.BATCH_HEADER;
        return this;
    }

    /**
     * Adds lines.
     *
     * @param lines the lines, each with its line feed
     */
    public LogBatch add(byte[] lines, int from, int count) {
        if (bytes.length - end < count) {
            long twice = Math.min(2L * bytes.length, Integer.MAX_VALUE - Long.BYTES);
            bytes = Arrays.copyOf(bytes, Math.max(Math.addExact(end, count), (int) twice));
        }
        System.arraycopy(lines, from, bytes, end, count);
        end += count;
        return this;
    }

    /** Returns the array, which contains the lines between {@link #from} and {@link #to}. */
    public byte[] array() {
        return bytes;
    }

    public int from() {
        return LogForm.BATCH_HEADER;
    }

    public int to() {
        return end;
    }

    /** Removes the bytes from this index on. */
    public void cutBack(int to) {
        end = to;
    }

    public boolean isEmpty() {
        return end == LogForm.BATCH_HEADER;
    }

    /** Returns the lines behind their header. */
    ByteBuffer withHeader() {
        int length = end - LogForm.BATCH_HEADER;
        ByteBuffer all = ByteBuffer.wrap(bytes, 0, end).order(ByteOrder.LITTLE_ENDIAN);
        all.putInt(LogForm.BATCH_MAGIC).putInt(length).putInt(LogForm.checksum(bytes, LogForm.BATCH_HEADER, length));
        return all.putInt(LogForm.checksum(bytes, 0, all.position())).rewind();
    }
}
