package dev.graphema.spool;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.function.Consumer;
import java.util.zip.CRC32C;

/**
 * A ring of records in memory outside the heap, or in a mapped file: many threads put, one takes. Neither allocates
 * objects nor blocks.
 *
 * <pre>
 * header, 4096 bytes                     records, from byte 4096, each at a multiple of 8
 *  64  tail   8  claimed up to here        0  state     8  0 while the record is written; then its length in the low
 * 128  head   8  given back up to here                     32 bits, with bit 30: nothing until the ring's end; in a
 * 192  taken  8  taken up to here                          file, the others are a hash of key, position and length
 * 256  free   8  free up to here plus      8  checksum  8  in a file, the CRC-32C of the payload
 *                the capacity             16  payload
 * </pre>
 *
 * <p>Positions only grow; their low bits are the index in the ring. A producer claims a place by moving the tail with a
 * compare-and-set, copies its record, and publishes it by writing its state. Free space is always zero, so that a
 * record that is still being written can be recognised: the consumer waits for it. A producer whose stack or memory is
 * used up in between leaves a hole, which the consumer skips.
 *
 * <p>In a file, the consumer moves {@code taken} before a record leaves, and the head after it has arrived. After a crash
 * of the process, all records from head to tail are present; those before {@code taken} may have arrived and are marked
 * as repeats. A producer that was killed has left a place without a state: the following records are found by their
 * states. Because the key is secret, no payload can contain a valid one.
 *
 * <p>It is written here because the ring buffers of libraries either hold objects, or use memory operations of the JDK that
 * are to be removed and print warnings.
 */
public final class Ring {
    static final int HEADER = 4096;
    static final int AT_TAIL = 64;
    static final int AT_HEAD = 128;
    static final int AT_FREE = 256;

    private static final int AT_TAKEN = 192;
    private static final int RECORD_HEADER = 16;
    private static final int PADDING = 1 << 30;
    private static final int HOLES = 256;
    private static final VarHandle LONG = MethodHandles.byteBufferViewVarHandle(long[].class, ByteOrder.nativeOrder());
    private static final byte[] ZEROS = new byte[8192];

    /**
     * A place up to this size without a state is that of a producer that was killed: its event was never accepted. A
     * larger one is a page that the end of the machine has lost.
     */
    private static final int LONGEST_UNREPORTED = 4096;

    private final ByteBuffer map;
    private final int capacity;
    private final boolean isFile;
    private final long key;
    private final long recoverTo;
    private final long repeatTo;
    private final Consumer<Long> damage;

    // Written without a call, because no stack may be left: position + 1 and size of places that were claimed in vain.
    private final long[] holes = new long[HOLES];
    private final int[] holeSizes = new int[HOLES];
    private volatile boolean hasHoles;

    // The consumer's alone.
    private long next;
    private long free;
    private long skipped;
    private boolean isDamage;
    private long damaged;

    /**
     * Creates a ring in memory.
     *
     * @param capacity the bytes for records: a power of two, 64 KiB or more
     */
    public static Ring inMemory(int capacity) {
        return new Ring(ByteBuffer.allocateDirect(HEADER + checked(capacity)), false, 0, bytes -> {});
    }

    /**
     * Creates a ring of a mapped file.
     *
     * @param damage receives the number of damaged bytes that were skipped
     */
    static Ring inFile(ByteBuffer map, long key, Consumer<Long> damage) {
        return new Ring(map, true, key, damage);
    }

    private Ring(ByteBuffer map, boolean isFile, long key, Consumer<Long> damage) {
        this.map = map.order(ByteOrder.nativeOrder());
        this.capacity = map.capacity() - HEADER;
        this.isFile = isFile;
        this.key = key;
        this.damage = damage;
        this.recoverTo = map.getLong(AT_TAIL);
        this.repeatTo = map.getLong(AT_TAKEN);
        this.next = map.getLong(AT_HEAD);
        this.free = next;
        if (isFile) {
            clear(recoverTo, next + capacity); // the end of a machine may have left anything there
            LONG.setRelease(map, AT_FREE, next);
        }
    }

    /**
     * Returns a valid capacity.
     *
     * @throws IllegalArgumentException if it is not a power of two, or less than 64 KiB
     */
    public static int checked(int capacity) {
        if (capacity < 64 * 1024 || Integer.bitCount(capacity) != 1) {
            throw new IllegalArgumentException("capacity: " + capacity + " (expected: a power of two from 65536 up)");
        }
        return capacity;
    }

    /** Returns the bytes for records. */
    public int capacity() {
        return capacity;
    }

    /** Returns the length of the longest accepted payload. */
    public int longest() {
        return longest(capacity);
    }

    /** Returns the length of the longest payload that a ring of this capacity accepts. */
    public static int longest(int capacity) {
        return capacity / 4;
    }

    /**
     * Puts a record; for any thread.
     *
     * @param length the number of bytes, from the beginning of the array; not 0
     * @param leaving the bytes that must remain free
     * @return false if there is no space
     */
    public boolean put(byte[] payload, int length, int leaving) {
        if (length > longest()) {
            return false;
        }
        int size = aligned(length);
        long checksum = isFile ? checksum(payload, length) : 0;
        long tail;
        int toEnd;
        do {
            tail = (long) LONG.getVolatile(map, AT_TAIL);
            int index = (int) (tail & capacity - 1);
            toEnd = index + size > capacity ? capacity - index : 0;
            if (tail + toEnd + size - (long) LONG.getVolatile(map, AT_FREE) > capacity - leaving) {
                return false;
            }
        } while (!LONG.compareAndSet(map, AT_TAIL, tail, tail + toEnd + size));
        long position = tail + toEnd;
        try {
            if (toEnd > 0) {
                LONG.setRelease(map, at(tail), state(PADDING | toEnd, tail));
            }
            int at = at(position);
            map.putLong(at + Long.BYTES, checksum);
            map.put(at + RECORD_HEADER, payload, 0, length);
            LONG.setRelease(map, at, state(length, position));
            return true;
        } catch (Throwable e) {
            int hole = (int) (tail >>> 3) & HOLES - 1;
            holeSizes[hole] = toEnd;
            holes[hole] = tail + 1;
            hole = (int) (position >>> 3) & HOLES - 1;
            holeSizes[hole] = size;
            holes[hole] = position + 1;
            hasHoles = true;
            throw e;
        }
    }

    /** Returns the length of the next record; 0 if there is none. For the consuming thread only. */
    public int peek() {
        while (next < putUpTo()) {
            long state = (long) LONG.getAcquire(map, at(next));
            int toEnd = capacity - (int) (next & capacity - 1);
            if (next < recoverTo) {
                int length = recover(state, toEnd);
                if (length > 0) {
                    return length;
                }
            } else if (state == 0) {
                int hole = (int) (next >>> 3) & HOLES - 1;
                if (!hasHoles || holes[hole] != next + 1) {
                    return 0; // it is being written
                }
                next += holeSizes[hole];
            } else if ((int) state == (PADDING | toEnd)) {
                next += toEnd;
            } else {
                return (int) state;
            }
        }
        return 0;
    }

    /** Returns the length of a record of an earlier process, or 0 after moving on. */
    private int recover(long state, int toEnd) {
        int length = (int) state;
        if (length == (PADDING | toEnd) && state == state(length, next)) {
            skip(toEnd, 0);
            return 0;
        }
        boolean isPossible = length > 0 && aligned(length) <= toEnd && next + aligned(length) <= recoverTo;
        if (!isPossible || state != state(length, next)) {
            isDamage |= skipped == 0 && state != 0;
            skipped += Long.BYTES;
            skip(Long.BYTES, 0);
            return 0;
        }
        byte[] payload = new byte[length];
        map.get(at(next) + RECORD_HEADER, payload, 0, length);
        if (checksum(payload, length) != map.getLong(at(next) + Long.BYTES)) {
            skip(aligned(length), aligned(length));
            return 0;
        }
        endGap();
        return length;
    }

    /** Damage is reported once, with the number of bytes, after all records of an earlier process were read. */
    private void skip(long count, long ofDamage) {
        next += count;
        damaged += ofDamage;
        if (next >= recoverTo) {
            endGap();
            report();
        }
    }

    private void endGap() {
        damaged += isDamage || skipped > LONGEST_UNREPORTED ? skipped : 0;
        skipped = 0;
        isDamage = false;
    }

    private void report() {
        if (damaged > 0) {
            long count = damaged;
            damaged = 0;
            damage.accept(count);
        }
    }

    /**
     * Copies the record of {@link #peek}.
     *
     * @param at the index of its first byte in the array
     */
    public void copy(byte[] to, int at, int length) {
        map.get(at(next) + RECORD_HEADER, to, at, length);
    }

    /** Returns whether the record of {@link #peek} may have been written before the process that put it ended. */
    public boolean isRepeat() {
        return next < repeatTo;
    }

    /** Consumes the record of {@link #peek}; for the consuming thread only. */
    public void advance(int length) {
        next += aligned(length);
        if (isFile) {
            LONG.setRelease(map, AT_TAKEN, Math.max(next, repeatTo));
            if (next >= recoverTo) {
                report();
            }
        }
    }

    /** Releases all consumed records, after they were written; for the consuming thread only. */
    public void giveBack() {
        if (free < next) {
            LONG.setRelease(map, AT_HEAD, next);
            zero(free, next);
            free = next;
            LONG.setRelease(map, AT_FREE, next);
        }
    }

    /** Returns the number of used bytes. */
    public long used() {
        return putUpTo() - (long) LONG.getVolatile(map, AT_HEAD);
    }

    /** Returns the position after the last claimed place; comparable with {@link #takenUpTo}. */
    public long putUpTo() {
        return (long) LONG.getVolatile(map, AT_TAIL);
    }

    /** Returns the position after the last consumed record; for the consuming thread only. */
    public long takenUpTo() {
        return next;
    }

    private void zero(long from, long to) {
        for (long position = from; position < to; ) {
            int index = (int) (position & capacity - 1);
            int count = (int) Math.min(Math.min(ZEROS.length, capacity - index), to - position);
            map.put(HEADER + index, ZEROS, 0, count);
            position += count;
        }
    }

    /** Writes zeros where there are none, so that pages of a file are not changed in vain. */
    private void clear(long from, long to) {
        ByteBuffer zeros = ByteBuffer.wrap(ZEROS);
        for (long position = from; position < to; ) {
            int index = (int) (position & capacity - 1);
            int count = (int) Math.min(Math.min(ZEROS.length, capacity - index), to - position);
            if (map.slice(HEADER + index, count).mismatch(zeros.slice(0, count)) >= 0) {
                map.put(HEADER + index, ZEROS, 0, count);
            }
            position += count;
        }
    }

    private long state(int length, long position) {
        if (!isFile) {
            return length;
        }
        long mixed = (key ^ position ^ (long) length << 40) * 0x9E3779B97F4A7C15L;
        mixed = (mixed ^ mixed >>> 32) * (key | 1);
        return mixed & 0xFFFF_FFFF_0000_0000L | length;
    }

    private static long checksum(byte[] payload, int length) {
        CRC32C crc = new CRC32C();
        crc.update(payload, 0, length);
        return crc.getValue();
    }

    private int at(long position) {
        return HEADER + (int) (position & capacity - 1);
    }

    private static int aligned(int length) {
        return length + RECORD_HEADER + 7 & ~7;
    }
}
