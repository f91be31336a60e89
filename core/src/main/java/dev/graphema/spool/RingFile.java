package dev.graphema.spool;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.SecureRandom;
import java.util.function.Consumer;

/**
 * A {@link Ring} in a memory-mapped file: a record that was put survives the sudden end of the process, because the pages
 * belong to the operating system; it does not survive the end of the machine.
 *
 * <pre>
 * beginning of the header; the rest is described at the ring
 *   0  magic     8  "GRAPHRNG"
 *   8  version   4  3
 *  16  capacity  8  bytes for records
 *  24  key       8  random
 * </pre>
 *
 * <p>After a crash of the machine, pages may be missing. A record with a wrong checksum is skipped, and records whose
 * states are missing.
 */
public final class RingFile implements Closeable {
    /** The default capacity: space for some ten thousand usual events. */
    public static final int USUAL_CAPACITY = 8 * 1024 * 1024;

    private static final long MAGIC = 0x4752415048524E47L;
    private static final int VERSION = 3;
    private static final int HEADER = Ring.HEADER;
    private static final int AT_VERSION = 8;
    private static final int AT_CAPACITY = 16;
    private static final int AT_KEY = 24;
    private static final byte[] ZEROS = new byte[8192];

    private final OwnFile file;
    private final Ring ring;
    private final Consumer<String> error;

    private RingFile(OwnFile file, ByteBuffer map, Consumer<String> error) {
        this.file = file;
        this.error = error;
        this.ring = Ring.inFile(map, map.getLong(AT_KEY), this::damaged);
    }

    private void damaged(long bytes) {
        error.accept(bytes + " bytes in " + file.path() + " were damaged when the machine ended, and are skipped");
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
        Ring.checked(capacity);
        OwnFile file = OwnFile.open(path);
        String defect = prepare(file, capacity);
        if (defect != null) {
            error.accept(defect + "; it is renamed to " + setAside(file) + ", and a new one is made");
            file = OwnFile.open(path);
            prepare(file, capacity);
        }
        return map(file, error);
    }

    /**
     * Writes a header and zeros into a file without one.
     *
     * @return the defect of an existing header, or null
     */
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
     * @param mark marks a record as a possible repeat
     */
    public void adopt(Path path, Consumer<byte[]> mark) throws IOException {
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

    private void adopt(RingFile left, Consumer<byte[]> mark) throws IOException {
        Ring from = left.ring;
        int length;
        while ((length = from.peek()) > 0) {
            byte[] record = new byte[length];
            from.copy(record, 0, length);
            mark.accept(record);
            if (!ring.put(record, length, 0)) {
                return;
            }
            from.advance(length);
            from.giveBack();
        }
        Files.deleteIfExists(left.path());
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
        long head = header.getLong(Ring.AT_HEAD);
        long used = header.getLong(Ring.AT_TAIL) - head;
        boolean isPossible = Long.bitCount(capacity) == 1
                && head >= 0
                && (head & 7) == 0
                && (used & 7) == 0
                && used >= 0
                && used <= capacity;
        return isPossible ? null : path + " has an impossible header";
    }

    /** Returns the ring. */
    public Ring ring() {
        return ring;
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
}
