package dev.graphema.segments.column;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;
import java.util.Arrays;

/** A growing array of bytes; numbers are little-endian. For one thread. */
public final class ByteWriter {
    private static final VarHandle SHORT = MethodHandles.byteArrayViewVarHandle(short[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle INT = MethodHandles.byteArrayViewVarHandle(int[].class, ByteOrder.LITTLE_ENDIAN);
    private static final VarHandle LONG = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);

    private byte[] bytes;
    private int length;

    /** @param capacity the usual number of bytes */
    public ByteWriter(int capacity) {
        bytes = new byte[Math.max(Long.BYTES, capacity)];
    }

    public int length() {
        return length;
    }

    /** Removes all bytes. */
    public void clear() {
        length = 0;
    }

    /** Returns the array, of which the first {@link #length} bytes are used. */
    public byte[] array() {
        return bytes;
    }

    public byte[] copy() {
        return Arrays.copyOf(bytes, length);
    }

    public ByteWriter putByte(int value) {
        room(1);
        bytes[length++] = (byte) value;
        return this;
    }

    public ByteWriter putShort(int value) {
        room(Short.BYTES);
        SHORT.set(bytes, length, (short) value);
        length += Short.BYTES;
        return this;
    }

    public ByteWriter putInt(int value) {
        room(Integer.BYTES);
        INT.set(bytes, length, value);
        length += Integer.BYTES;
        return this;
    }

    public ByteWriter putLong(long value) {
        room(Long.BYTES);
        LONG.set(bytes, length, value);
        length += Long.BYTES;
        return this;
    }

    public ByteWriter put(byte[] from, int at, int count) {
        room(count);
        System.arraycopy(from, at, bytes, length, count);
        length += count;
        return this;
    }

    public ByteWriter put(byte[] from) {
        return put(from, 0, from.length);
    }

    private void room(int more) {
        if (bytes.length - length < more) {
            bytes = Arrays.copyOf(bytes, Math.max(2 * bytes.length, length + more));
        }
    }
}
