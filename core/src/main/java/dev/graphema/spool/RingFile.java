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
 * <p>Positions only grow; their low bits are the place in the ring. A producer writes its record behind the tail and then
 * moves the tail, under a lock that belongs to producers alone. Until the tail moves, nobody sees the record: a producer that
 * is killed, or whose stack overflows, leaves nothing behind. The consumer moves {@code taken} before a record leaves, and
 * the head once the record has arrived. After a sudden end, everything from head to tail is there, and what lies before
 * {@code taken} may have arrived and is a repeat.
 *
 * <p>After the end of the machine, pages may be missing. A record whose checksum is wrong is skipped, and with it all that
 * follows when its length is impossible. No record is searched for: the bytes of a payload are never taken for a record, and
 * because nobody else knows the key, no payload can contain one with a right checksum.
 */
public final class RingFile implements Closeable {
    /** How many bytes the records have unless it is said otherwise: room for some ten thousand usual events. */
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
    private final Consumer<String> trouble;

    /** Held by producers while they write a record and move the tail. */
    private final Object putting = new Object();

    // The consumer's alone.
    private long next;
    private long damagedBytes;

    private RingFile(OwnFile file, ByteBuffer map, Consumer<String> trouble) {
        this.file = file;
        this.map = map;
        this.trouble = trouble;
        this.capacity = (int) map.getLong(AT_CAPACITY);
        this.key = map.getLong(AT_KEY);
        this.recoverTo = map.getLong(AT_TAIL);
        this.repeatTo = map.getLong(AT_TAKEN);
        this.next = map.getLong(AT_HEAD);
    }

    /**
     * Opens the ring, or makes it; one that another process has open is left alone, and the next free name is taken. A file
     * that cannot be used, because it was truncated or another version wrote it, is renamed and reported, and a new one is
     * made.
     *
     * @param capacity the bytes for records in a new ring: a power of two, 64 KiB at least
     * @param trouble receives one line about what cannot be read
     * @throws IOException when the file cannot be made
     */
    public static RingFile open(Path path, int capacity, Consumer<String> trouble) throws IOException {
        if (capacity < 64 * 1024 || Integer.bitCount(capacity) != 1) {
            throw new IllegalArgumentException("capacity: " + capacity + " (expected: a power of two from 65536 up)");
        }
        OwnFile file = OwnFile.open(path);
        String defect = prepare(file, capacity);
        if (defect != null) {
            trouble.accept(defect + "; it is renamed to " + setAside(file) + ", and a new one is made");
            file = OwnFile.open(path);
            prepare(file, capacity);
        }
        return map(file, trouble);
    }

    /** Writes a header and zeros into a file that has none; returns what is wrong with one that has, or null. */
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

    private static RingFile map(OwnFile file, Consumer<String> trouble) throws IOException {
        try {
            FileChannel channel = file.channel();
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
            ByteBuffer header = header(file.channel());
            if (header == null || header.getLong(0) == 0) {
                delete(file);
                continue;
            }
            String defect = defect(file.path(), header, file.channel().size());
            if (defect != null) {
                trouble.accept(defect + "; it is renamed to " + setAside(file));
                continue;
            }
            try (RingFile left = map(file, trouble)) {
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

    /** Writes the whole file, so that a full disk is noticed now and not by a memory fault later. */
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

    /** Why a file cannot be used, or null when it can. */
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

    /** The bytes for records. */
    public int capacity() {
        return capacity;
    }

    /** The longest payload that is taken. */
    public int longest() {
        return capacity / 4;
    }

    /** Whether a small record can be put. @param leaving how many bytes of the ring must stay free behind it */
    public boolean hasRoom(int leaving) {
        return used() + RECORD_HEADER <= capacity - leaving;
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

    /** Tells a record at this position of this file from any bytes that somebody else could make. */
    private int mark(long position) {
        long mixed = (key ^ position) * 0x9E3779B97F4A7C15L;
        mixed = (mixed ^ mixed >>> 32) * (key | 1);
        return (int) (mixed >>> 32);
    }

    /** The next record, valid until {@link #giveBack}; null when there is none. For the one thread that takes. */
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

    /** Damage is reported once, with the number of bytes, when all that an earlier process left has been read. */
    private void skipDamaged(long count) {
        next += count;
        damagedBytes += count;
        if (next >= recoverTo) {
            trouble.accept(damagedBytes + " bytes in " + file.path()
                    + " were damaged when the machine ended, and are skipped");
        }
    }

    /** Whether the record that {@link #peek} returned may have arrived before the process that put it ended. */
    public boolean isRepeat() {
        return next < repeatTo;
    }

    /** Steps over the record that {@link #peek} returned, which may leave from now on; for the one thread that takes. */
    public void advance() {
        next += aligned(map.getInt(at(next)));
        LONG.setVolatile(map, AT_TAKEN, Math.max(next, repeatTo));
    }

    private static int checksum(ByteBuffer payload) {
        CRC32C crc = new CRC32C();
        crc.update(payload.duplicate());
        return (int) crc.getValue();
    }

    /** Notes that all records stepped over so far have arrived; for the one thread that takes. */
    public void giveBack() {
        LONG.setVolatile(map, AT_HEAD, next);
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
