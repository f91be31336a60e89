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
import java.security.SecureRandom;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import java.util.zip.CRC32C;

/**
 * A ring of records in a memory-mapped file: many threads put, one takes. A record that was put survives the sudden end of
 * the process, because the pages belong to the operating system; it does not survive the end of the machine.
 *
 * <pre>
 * header, 4096 bytes                          records, from byte 4096, each at a multiple of 8
 *   0  magic     8  "GRAPHRNG"                  0  length of the payload  4  with bit 30: nothing until the ring's end
 *   8  version   4  2                           4  checksum               4  CRC-32C of the payload, exclusive or a
 *  16  capacity  8  bytes for records                                        hash of the key and the record's position
 *  24  key       8  random                      8  payload
 *  64  tail      8  put up to here
 * 128  head      8  given back up to here
 * 192  taken     8  taken up to here
 * </pre>
 *
 * <p>Positions only grow; their low bits are the index in the ring. A producer writes its record after the tail and then
 * moves the tail, under a lock for producers only. The record is invisible until the tail moves, so a producer that is
 * killed, or whose stack overflows, leaves no partial record. The consumer moves {@code taken} before a record leaves, and the
 * head after it has arrived. After a crash of the process, all records from head to tail are present; those before {@code
 * taken} may have arrived and are marked as repeats.
 *
 * <p>After a crash of the machine, pages may be missing. A record with a wrong checksum is skipped, and all following ones if
 * its length is invalid. Recovery does not search for records, so bytes of a payload are never read as a record; and because
 * the key is secret, no payload can contain a record with a valid checksum.
 */
public final class RingFile implements Closeable {
    /** The default capacity: space for some ten thousand usual events. */
    public static final int USUAL_CAPACITY = 8 * 1024 * 1024;

    private static final long MAGIC = 0x4752415048524E47L;
    private static final int VERSION = 2;
    private static final int HEADER = 4096;
    private static final int AT_VERSION = 8;
    private static final int AT_CAPACITY = 16;
    private static final int AT_KEY = 24;
    private static final int AT_TAIL = 64;
    private static final int AT_HEAD = 128;
    private static final int AT_TAKEN = 192;
    private static final int RECORD_HEADER = 8;
    private static final int PADDING = 1 << 30;
    private static final VarHandle LONG = MethodHandles.byteBufferViewVarHandle(long[].class, ByteOrder.nativeOrder());
    private static final byte[] ZEROS = new byte[8192];

    private final OwnFile file;
    private final ByteBuffer map;
    private final int capacity;
    private final long key;
    private final long recoverTo;
    private final long repeatTo;
    private final Consumer<String> error;

    /** Held by producers while they write a record and move the tail. */
    private final Object putting = new Object();

    // The consumer's alone.
    private long next;
    private long damagedBytes;

    private RingFile(OwnFile file, ByteBuffer map, Consumer<String> error) {
        this.file = file;
        this.map = map;
        this.error = error;
        this.capacity = (int) map.getLong(AT_CAPACITY);
        this.key = map.getLong(AT_KEY);
        this.recoverTo = map.getLong(AT_TAIL);
        this.repeatTo = map.getLong(AT_TAKEN);
        this.next = map.getLong(AT_HEAD);
    }

    /**
     * Opens or creates the ring. If another process has it open, the next free name is used. A file that was truncated,
     * or written by another version, is renamed and reported, and a new one is created.
     *
     * @param capacity the bytes for records in a new ring: a power of two, 64 KiB or more
     * @param error receives one line about what cannot be read
     * @throws IOException if the file cannot be created
     */
    public static RingFile open(Path path, int capacity, Consumer<String> error) throws IOException {
        if (capacity < 64 * 1024 || Integer.bitCount(capacity) != 1) {
            throw new IllegalArgumentException("capacity: " + capacity + " (expected: a power of two from 65536 up)");
        }
        OwnFile file = OwnFile.open(path);
        String defect = prepare(file, capacity);
        if (defect != null) {
            error.accept(defect + "; it is renamed to " + setAside(file) + ", and a new one is made");
            file = OwnFile.open(path);
            prepare(file, capacity);
        }
        return map(file, error);
    }

    /** Writes a header and zeros into a file without one. @return the defect of an existing header, or null */
    private static String prepare(OwnFile file, int capacity) throws IOException {
        FileChannel channel = file.channel();
        try {
            ByteBuffer header = header(channel);
            // The header is written last: without one, the file was being made when its process ended, and is empty.
            if (header == null || header.getLong(0) == 0) {
                create(file, capacity);
                return null;
            }
            return defect(file.path(), header, channel.size());
        } catch (IOException | RuntimeException e) {
            file.close();
            throw e;
        }
    }

    private static ByteBuffer header(FileChannel channel) throws IOException {
        ByteBuffer header = ByteBuffer.allocate(HEADER).order(ByteOrder.nativeOrder());
        while (header.hasRemaining() && channel.read(header, header.position()) > 0) {
            // until the whole header is read
        }
        return header.hasRemaining() ? null : header;
    }

    private static Path setAside(OwnFile file) throws IOException {
        Path aside = Path.of(file.path() + ".unreadable");
        for (int number = 2; Files.exists(aside); number++) {
            aside = Path.of(file.path() + ".unreadable." + number);
        }
        try (file) {
            return Files.move(file.path(), aside);
        }
    }

    private static RingFile map(OwnFile file, Consumer<String> error) throws IOException {
        try {
            FileChannel channel = file.channel();
            ByteBuffer map = channel.map(FileChannel.MapMode.READ_WRITE, 0, channel.size())
                    .order(ByteOrder.nativeOrder());
            return new RingFile(file, map, error);
        } catch (IOException | RuntimeException e) {
            file.close();
            throw e;
        }
    }

    /**
     * Moves the records of unused rings with this path into this one: of processes that ran concurrently, or of a sink
     * whose settings were changed, and that ended suddenly. Records that do not fit remain until the next time.
     *
     * @param path as for {@link #open}
     * @param mark marks a record as a possible repeat; returns other bytes
     */
    public void adopt(Path path, UnaryOperator<ByteBuffer> mark) throws IOException {
        for (OwnFile file : OwnFile.leftBehind(path)) {
            ByteBuffer header = header(file.channel());
            if (header == null || header.getLong(0) == 0) {
                delete(file);
                continue;
            }
            String defect = defect(file.path(), header, file.channel().size());
            if (defect != null) {
                error.accept(defect + "; it is renamed to " + setAside(file));
                continue;
            }
            try (RingFile left = map(file, error)) {
                adopt(left, mark);
            }
        }
    }

    private static void delete(OwnFile file) throws IOException {
        try (file) {
            Files.deleteIfExists(file.path());
        }
    }

    private void adopt(RingFile left, UnaryOperator<ByteBuffer> mark) throws IOException {
        ByteBuffer record = left.peek();
        while (record != null && put(mark.apply(record), 0)) {
            left.advance();
            left.giveBack();
            record = left.peek();
        }
        if (record == null) {
            Files.deleteIfExists(left.path());
        }
    }

    /** Writes the complete file, so that a full disk is detected now and not by a memory fault later. */
    private static void create(OwnFile file, int capacity) throws IOException {
        FileChannel channel = file.channel();
        try {
            channel.truncate(0);
            for (int written = 0; written < capacity; written += ZEROS.length) {
                writeAll(channel, ByteBuffer.wrap(ZEROS), HEADER + (long) written);
            }
            ByteBuffer header = ByteBuffer.allocate(HEADER).order(ByteOrder.nativeOrder());
            header.putLong(0, MAGIC)
                    .putInt(AT_VERSION, VERSION)
                    .putLong(AT_CAPACITY, capacity)
                    .putLong(AT_KEY, randomKey());
            writeAll(channel, header, 0);
        } catch (IOException e) {
            Files.deleteIfExists(file.path()); // half a file would only take room on a full disk
            throw e;
        }
    }

    private static long randomKey() {
        return new SecureRandom().nextLong();
    }

    private static void writeAll(FileChannel channel, ByteBuffer bytes, long at) throws IOException {
        while (bytes.hasRemaining()) {
            channel.write(bytes, at + bytes.position());
        }
    }

    /** Returns why a file cannot be used, or null. */
    private static String defect(Path path, ByteBuffer header, long size) {
        if (header.getLong(0) != MAGIC) {
            return path + " is not a hand-over file of this machine";
        }
        int version = header.getInt(AT_VERSION);
        if (version != VERSION) {
            return path + " is of version " + version + " (expected: " + VERSION
                    + "), and can be read only by the Graphema that wrote it";
        }
        long capacity = header.getLong(AT_CAPACITY);
        if (capacity + HEADER != size) {
            return path + " is truncated: it has " + size + " bytes (expected: " + (capacity + HEADER) + ")";
        }
        long head = header.getLong(AT_HEAD);
        long used = header.getLong(AT_TAIL) - head;
        boolean isPossible =
                Long.bitCount(capacity) == 1 && head >= 0 && (head & 7) == 0 && used >= 0 && used <= capacity;
        return isPossible ? null : path + " has an impossible header";
    }

    /** Returns the bytes for records. */
    public int capacity() {
        return capacity;
    }

    /** Returns the length of the longest accepted payload. */
    public int longest() {
        return capacity / 4;
    }

    /** Returns whether there is space for a small record. @param leaving the bytes that must remain free */
    public boolean hasRoom(int leaving) {
        return used() + RECORD_HEADER <= capacity - leaving;
    }

    /**
     * Puts a record; for any thread.
     *
     * @param leaving the bytes that must remain free
     * @return false if there is no space
     */
    public boolean put(ByteBuffer payload, int leaving) {
        int length = payload.remaining();
        int size = aligned(length);
        int checksum = checksum(payload);
        synchronized (putting) {
            long tail = (long) LONG.getVolatile(map, AT_TAIL);
            long head = (long) LONG.getVolatile(map, AT_HEAD);
            int index = (int) (tail & capacity - 1);
            int toEnd = index + size > capacity ? capacity - index : 0;
            if (tail + toEnd + size - head > capacity - leaving) {
                return false;
            }
            if (toEnd > 0) {
                map.putInt(at(tail), PADDING | toEnd);
            }
            long position = tail + toEnd;
            int at = at(position);
            map.putInt(at, length);
            map.putInt(at + 4, checksum ^ mark(position));
            map.put(at + RECORD_HEADER, payload, payload.position(), length);
            LONG.setVolatile(map, AT_TAIL, position + size);
            return true;
        }
    }

    /** Returns a mark that distinguishes a record at this position of this file from any other bytes. */
    private int mark(long position) {
        long mixed = (key ^ position) * 0x9E3779B97F4A7C15L;
        mixed = (mixed ^ mixed >>> 32) * (key | 1);
        return (int) (mixed >>> 32);
    }

    /** Returns the next record, valid until {@link #giveBack}; null if there is none. For the consuming thread only. */
    public ByteBuffer peek() {
        while (next < (long) LONG.getVolatile(map, AT_TAIL)) {
            int at = at(next);
            int length = map.getInt(at);
            int toEnd = capacity - (int) (next & capacity - 1);
            if (length == (PADDING | toEnd)) {
                next += toEnd;
            } else if (next >= recoverTo) {
                return map.slice(at + RECORD_HEADER, length);
            } else if (length <= 0 || aligned(length) > toEnd || next + aligned(length) > recoverTo) {
                skipDamaged(recoverTo - next); // where the next record begins is not known
            } else {
                ByteBuffer payload = map.slice(at + RECORD_HEADER, length);
                if ((checksum(payload) ^ mark(next)) == map.getInt(at + 4)) {
                    return payload;
                }
                skipDamaged(aligned(length));
            }
        }
        return null;
    }

    /** Damage is reported once, with the number of bytes, after all records of an earlier process were read. */
    private void skipDamaged(long count) {
        next += count;
        damagedBytes += count;
        if (next >= recoverTo) {
            error.accept(damagedBytes + " bytes in " + file.path()
                    + " were damaged when the machine ended, and are skipped");
        }
    }

    /** Returns whether the record of {@link #peek} may have been written before the process that put it ended. */
    public boolean isRepeat() {
        return next < repeatTo;
    }

    /** Consumes the record of {@link #peek}; for the consuming thread only. */
    public void advance() {
        next += aligned(map.getInt(at(next)));
        LONG.setVolatile(map, AT_TAKEN, Math.max(next, repeatTo));
    }

    private static int checksum(ByteBuffer payload) {
        CRC32C crc = new CRC32C();
        crc.update(payload.duplicate());
        return (int) crc.getValue();
    }

    /** Releases all consumed records, after they were written; for the consuming thread only. */
    public void giveBack() {
        LONG.setVolatile(map, AT_HEAD, next);
    }

    /** Returns the number of used bytes. */
    public long used() {
        return (long) LONG.getVolatile(map, AT_TAIL) - (long) LONG.getVolatile(map, AT_HEAD);
    }

    /** Returns the position after the last record; comparable with {@link #takenUpTo}. */
    public long putUpTo() {
        return (long) LONG.getVolatile(map, AT_TAIL);
    }

    /** Returns the position after the last consumed record; for the consuming thread only. */
    public long takenUpTo() {
        return next;
    }

    /** Returns the file. */
    public Path path() {
        return file.path();
    }

    /** Releases the file. No thread may use the ring any more. */
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
