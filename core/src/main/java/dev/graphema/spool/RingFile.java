package dev.graphema.spool;

import java.io.Closeable;
import java.io.IOException;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.zip.CRC32C;

/**
 * A ring of records in a memory-mapped file: many threads put, one takes. What was put survives the sudden end of the
 * process, since the pages belong to the operating system; the end of the machine it does not.
 *
 * <pre>
 * header, 4096 bytes                          records, from byte 4096, each at a multiple of 8
 *   0  magic     8  "GRAPHRNG"                  0  length of the payload  4  0: free; negative: claimed, being
 *   8  version   4  1                                                        written; positive: whole; with bit 30:
 *  16  capacity  8  bytes for records                                        nothing until the ring's end
 *  64  tail      8  claimed up to here          4  CRC-32C of the payload 4
 * 128  head      8  given back up to here       8  payload
 * 192  taken     8  taken up to here
 * </pre>
 *
 * <p>Positions only grow; their low bits are the place in the ring. A producer claims by moving the tail (compare and set),
 * writes the negative length, the payload, and last the length itself (release), which the taker reads (acquire). Whoever
 * takes moves {@code taken} before a record leaves, and, once it has arrived, clears its bytes and moves the head. So after a
 * sudden end, everything from head to tail is there: what lies before {@code taken} may have arrived and is a repeat; a
 * claim that was never finished belongs to a call that never returned, and is passed over.
 */
public final class RingFile implements Closeable {
    /** How many bytes the records have unless it is said otherwise: room for some ten thousand usual events. */
    public static final int USUAL_CAPACITY = 8 * 1024 * 1024;

    private static final long MAGIC = 0x4752415048524E47L;
    private static final int VERSION = 1;
    private static final int HEADER = 4096;
    private static final int AT_VERSION = 8;
    private static final int AT_CAPACITY = 16;
    private static final int AT_TAIL = 64;
    private static final int AT_HEAD = 128;
    private static final int AT_TAKEN = 192;
    private static final int RECORD_HEADER = 8;
    private static final int PADDING = 1 << 30;
    private static final VarHandle INT = MethodHandles.byteBufferViewVarHandle(int[].class, ByteOrder.nativeOrder());
    private static final VarHandle LONG = MethodHandles.byteBufferViewVarHandle(long[].class, ByteOrder.nativeOrder());
    private static final byte[] ZEROS = new byte[8192];

    private final OwnFile file;
    private final ByteBuffer map;
    private final int capacity;
    private final long recoverTo;
    private final long repeatTo;
    private final Consumer<String> trouble;

    // The taker's alone.
    private long next;
    private boolean lastIsRepeat;

    private RingFile(OwnFile file, ByteBuffer map, Consumer<String> trouble) {
        this.file = file;
        this.map = map;
        this.trouble = trouble;
        this.capacity = (int) map.getLong(AT_CAPACITY);
        this.recoverTo = map.getLong(AT_TAIL);
        this.repeatTo = map.getLong(AT_TAKEN);
        this.next = map.getLong(AT_HEAD);
    }

    /**
     * Opens the ring, or makes it; one that another process has open is left alone, and the next free name is taken.
     *
     * @param capacity the bytes for records in a new ring: a power of two, 64 KiB at least
     * @param trouble told in one line about what cannot be read
     * @throws IOException when the file cannot be made or is not of this version
     */
    public static RingFile open(Path path, int capacity, Consumer<String> trouble) throws IOException {
        if (capacity < 64 * 1024 || Integer.bitCount(capacity) != 1) {
            throw new IllegalArgumentException("capacity: " + capacity + " (expected: a power of two from 65536 up)");
        }
        return open(OwnFile.open(path), capacity, trouble);
    }

    private static RingFile open(OwnFile file, int capacity, Consumer<String> trouble) throws IOException {
        try {
            FileChannel channel = file.channel();
            if (channel.size() < HEADER) {
                create(channel, capacity);
            }
            ByteBuffer header = ByteBuffer.allocate(HEADER).order(ByteOrder.nativeOrder());
            channel.read(header, 0);
            check(file.path(), header, channel.size());
            ByteBuffer map = channel.map(FileChannel.MapMode.READ_WRITE, 0, channel.size())
                    .order(ByteOrder.nativeOrder());
            return new RingFile(file, map, trouble);
        } catch (IOException | RuntimeException e) {
            file.close();
            throw e;
        }
    }

    /**
     * Takes over what lies in rings beside this one that nobody uses any more: those of processes that ran at the same time, or
     * of a sink whose settings were changed, and that ended suddenly. What does not fit waits for the next time.
     *
     * @param path as for {@link #open}
     * @param mark marks a record as one that may have arrived before; returns other bytes
     */
    public void adopt(Path path, UnaryOperator<ByteBuffer> mark) throws IOException {
        for (OwnFile file : OwnFile.leftBehind(path)) {
            try (RingFile left = open(file, USUAL_CAPACITY, trouble)) {
                ByteBuffer record = left.take();
                while (record != null && put(mark.apply(record), 0)) {
                    left.giveBack();
                    record = left.take();
                }
                if (record == null) {
                    left.giveBack();
                    Files.deleteIfExists(file.path());
                }
            } catch (IOException e) {
                trouble.accept(e.getMessage() + "; it is left where it is");
            }
        }
    }

    /** Writes the whole file, so that a disk that is full is noticed now and not by a memory fault later. */
    private static void create(FileChannel channel, int capacity) throws IOException {
        channel.truncate(0);
        channel.position(HEADER);
        for (int written = 0; written < capacity; written += ZEROS.length) {
            writeAll(channel, ByteBuffer.wrap(ZEROS), HEADER + (long) written);
        }
        ByteBuffer header = ByteBuffer.allocate(HEADER).order(ByteOrder.nativeOrder());
        header.putLong(0, MAGIC).putInt(AT_VERSION, VERSION).putLong(AT_CAPACITY, capacity);
        writeAll(channel, header, 0);
    }

    private static void writeAll(FileChannel channel, ByteBuffer bytes, long at) throws IOException {
        while (bytes.hasRemaining()) {
            channel.write(bytes, at + bytes.position());
        }
    }

    private static void check(Path path, ByteBuffer header, long size) throws IOException {
        if (header.getLong(0) != MAGIC) {
            throw new IOException(path + " is no hand-over file of this machine: move it away");
        }
        int version = header.getInt(AT_VERSION);
        if (version != VERSION) {
            throw new IOException(path + " is of version " + version + " (expected: " + VERSION
                    + "): empty it with the version that wrote it, or move it away");
        }
        if (header.getLong(AT_CAPACITY) + HEADER != size) {
            throw new IOException(path + " is cut off: it has " + size + " bytes (expected: "
                    + (header.getLong(AT_CAPACITY) + HEADER) + "); move it away");
        }
    }

    /** The bytes for records. */
    public int capacity() {
        return capacity;
    }

    /** The longest payload that is taken. */
    public int longest() {
        return capacity / 4;
    }

    /**
     * Puts a record, from any thread.
     *
     * @param leaving how many bytes of the ring must stay free behind it
     * @return false when there is no room
     */
    public boolean put(ByteBuffer payload, int leaving) {
        int length = payload.remaining();
        int size = aligned(length);
        long tail;
        int toEnd;
        do {
            tail = (long) LONG.getVolatile(map, AT_TAIL);
            long head = (long) LONG.getVolatile(map, AT_HEAD);
            int index = (int) (tail & capacity - 1);
            toEnd = index + size > capacity ? capacity - index : 0;
            if (tail + toEnd + size - head > capacity - leaving) {
                return false;
            }
        } while (!LONG.compareAndSet(map, AT_TAIL, tail, tail + toEnd + size));
        if (toEnd > 0) {
            INT.setRelease(map, at(tail), PADDING | toEnd);
        }
        int at = at(tail + toEnd);
        INT.setRelease(map, at, -length);
        CRC32C crc = new CRC32C();
        crc.update(payload.duplicate());
        map.putInt(at + 4, (int) crc.getValue());
        map.put(at + RECORD_HEADER, payload, payload.position(), length);
        INT.setRelease(map, at, length);
        return true;
    }

    /** The next record, valid until {@link #giveBack}; null when there is none. For the one thread that takes. */
    public ByteBuffer take() {
        while (true) {
            boolean recovering = next < recoverTo;
            if (!recovering && next == (long) LONG.getVolatile(map, AT_TAIL)) {
                return null;
            }
            int at = at(next);
            int length = (int) INT.getAcquire(map, at);
            if (length > 0 && (length & PADDING) != 0 && (!recovering || isToEnd(length & ~PADDING))) {
                next += length & ~PADDING;
            } else if (length > 0) {
                ByteBuffer payload = taken(at, length, recovering);
                if (payload != null) {
                    return payload;
                }
            } else if (!recovering) {
                return null; // somebody is about to finish it
            } else {
                // Never finished; or, behind damage, anything: then the next multiple of 8 may be a record again.
                boolean isClaim = length < 0 && length >= -longest() && next + aligned(-length) <= recoverTo;
                next += isClaim ? aligned(-length) : RECORD_HEADER;
            }
        }
    }

    private boolean isToEnd(int count) {
        return count == capacity - (int) (next & capacity - 1);
    }

    private ByteBuffer taken(int at, int length, boolean recovering) {
        boolean fits = at + RECORD_HEADER + (long) length <= HEADER + (long) capacity;
        ByteBuffer payload = fits ? map.slice(at + RECORD_HEADER, length) : null;
        if (recovering && (payload == null || checksum(payload) != map.getInt(at + 4))) {
            trouble.accept("a damaged record in " + file.path() + " is passed over");
            next += RECORD_HEADER;
            return null;
        }
        lastIsRepeat = next < repeatTo;
        next += aligned(length);
        LONG.setRelease(map, AT_TAKEN, Math.max(next, repeatTo));
        return payload;
    }

    private static int checksum(ByteBuffer payload) {
        CRC32C crc = new CRC32C();
        crc.update(payload.duplicate());
        return (int) crc.getValue();
    }

    /** Whether the record that {@link #take} returned last may have arrived before the process that put it ended. */
    public boolean lastIsRepeat() {
        return lastIsRepeat;
    }

    /** Takes note that all records taken so far have arrived; for the one thread that takes. */
    public void giveBack() {
        long head = map.getLong(AT_HEAD);
        for (long position = head; position < next; ) {
            int index = (int) (position & capacity - 1);
            int count = (int) Math.min(Math.min(next - position, capacity - index), ZEROS.length);
            map.put(HEADER + index, ZEROS, 0, count);
            position += count;
        }
        if (next > head) {
            LONG.setVolatile(map, AT_HEAD, next);
        }
    }

    /** How many bytes are in use. */
    public long used() {
        return (long) LONG.getVolatile(map, AT_TAIL) - (long) LONG.getVolatile(map, AT_HEAD);
    }

    /** Up to where was put; comparable with {@link #takenUpTo}. */
    public long putUpTo() {
        return (long) LONG.getVolatile(map, AT_TAIL);
    }

    /** Up to where was taken; for the one thread that takes. */
    public long takenUpTo() {
        return next;
    }

    /** The file that is used. */
    public Path path() {
        return file.path();
    }

    /** Gives the file back to whoever opens it next. No thread may put or take any more. */
    @Override
    public void close() throws IOException {
        file.close();
    }

    private int at(long position) {
        return HEADER + (int) (position & capacity - 1);
    }

    private static int aligned(int length) {
        return length + RECORD_HEADER + 7 & ~7;
    }
}
