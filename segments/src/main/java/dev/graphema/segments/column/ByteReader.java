package dev.graphema.segments.column;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Reads what {@link ByteWriter} has written. For one thread.
 *
 * <p>Reading behind the end throws an {@link IndexOutOfBoundsException}, which callers report as damage.
 */
public final class ByteReader {
    private static final VarHandle SHORT = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle INT = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle LONG = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    /** The bytes that can be read behind the end, so that packed numbers can be read word by word. */
    public static final int BEHIND = Long.BYTES + 1;

    private final byte[] bytes;
    private final int end;
    private int at;

    /**
     * @param bytes the bytes, and {@link #BEHIND} more
     * @param end where they end
     */
    public ByteReader(byte[] bytes, int end) {
        if (bytes.length - end < BEHIND) {
            throw new IllegalArgumentException("bytes: " + bytes.length + " (expected: " + BEHIND + " behind the end)");
        }
        this.bytes = bytes;
        this.end = end;
    }

    public int getByte() {
        require(1);
        return bytes[at++] & 0xFF;
    }

    public int getShort() {
        require(Short.BYTES);
        int value = (short) SHORT.get(bytes, at) & 0xFFFF;
        at += Short.BYTES;
        return value;
    }

    public int getInt() {
        require(Integer.BYTES);
        int value = (int) INT.get(bytes, at);
        at += Integer.BYTES;
        return value;
    }

    public long getLong() {
        require(Long.BYTES);
        long value = (long) LONG.get(bytes, at);
        at += Long.BYTES;
        return value;
    }

    public byte[] get(int count) {
        require(count);
        byte[] copy = new byte[count];
        System.arraycopy(bytes, at, copy, 0, count);
        at += count;
        return copy;
    }

    /** Returns eight bytes, which may reach behind the end, as one number. */
    long wordAt(int place) {
        return (long) LONG.get(bytes, place);
    }

    /** Returns a byte as a number that is not negative. */
    int byteAt(int place) {
        return bytes[place] & 0xFF;
    }

    /** Returns the index of the next byte. */
    int at() {
        return at;
    }

    void skip(int count) {
        require(count);
        at += count;
    }

    private void require(int count) {
        if (count < 0 || count > end - at) {
            throw new IndexOutOfBoundsException(count);
        }
    }
}
