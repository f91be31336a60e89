package dev.graphema.spool;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.util.Set;
import java.util.zip.CRC32C;

/**
 * One file of a spool: records one behind the other.
 *
 * <pre>
 * header   magic 8 "GRAPHSPL", version 4, nothing 4
 * record   length 4, CRC-32C of the payload 4, payload; big-endian
 * </pre>
 */
final class Segment implements Closeable {
    static final int HEADER = 16;

    private static final long MAGIC = 0x475241504853504CL;
    private static final int VERSION = 1;
    private static final int RECORD_HEADER = 8;
    private static final int LONGEST = 64 * 1024 * 1024;

    private final long number;
    private final Path path;
    private final FileChannel channel;
    private long size;

    private Segment(long number, Path path, FileChannel channel, long size) {
        this.number = number;
        this.path = path;
        this.channel = channel;
        this.size = size;
    }

    /** Creates a segment. */
    static Segment create(long number, Path path) throws IOException {
        FileChannel channel = FileChannel.open(path, Set.of(CREATE, READ, WRITE), OwnFile.ownersOnly());
        try {
            channel.truncate(0);
            ByteBuffer header = ByteBuffer.allocate(HEADER)
                    .putLong(MAGIC)
                    .putInt(VERSION)
                    .putInt(0)
                    .flip();
            writeAll(channel, header, 0);
            return new Segment(number, path, channel, HEADER);
        } catch (IOException e) {
            channel.close();
            throw e;
        }
    }

    /**
     * Opens an existing segment.
     *
     * @throws IOException if it cannot be read or is not a segment of this version
     */
    static Segment open(long number, Path path) throws IOException {
        FileChannel channel = FileChannel.open(path, READ, WRITE);
        try {
            ByteBuffer header = ByteBuffer.allocate(HEADER);
            channel.read(header, 0);
            header.flip();
            if (header.remaining() < HEADER || header.getLong() != MAGIC) {
                throw new IOException(path + " is not part of a spool");
            }
            int version = header.getInt();
            if (version != VERSION) {
                throw new IOException(path + " is of version " + version + " (expected: " + VERSION + ")");
            }
            return new Segment(number, path, channel, channel.size());
        } catch (IOException e) {
            channel.close();
            throw e;
        }
    }

    long number() {
        return number;
    }

    Path path() {
        return path;
    }

    long size() {
        return size;
    }

    /** Adds a record; if that fails, nothing is added. */
    void add(ByteBuffer payload) throws IOException {
        ByteBuffer record = ByteBuffer.allocate(RECORD_HEADER + payload.remaining());
        record.putInt(payload.remaining())
                .putInt(checksum(payload))
                .put(payload.duplicate())
                .flip();
        try {
            writeAll(channel, record, size);
            size += record.limit();
        } catch (IOException e) {
            channel.truncate(size); // half a record must not precede the next one
            throw e;
        }
    }

    /** Returns the payload of the record at a position, or null if there is no complete one. */
    ByteBuffer read(long at) throws IOException {
        ByteBuffer header = readAll(at, RECORD_HEADER);
        if (header == null) {
            return null;
        }
        int length = header.getInt();
        if (length <= 0 || length > LONGEST) {
            return null;
        }
        ByteBuffer payload = readAll(at + RECORD_HEADER, length);
        return payload == null || checksum(payload) != header.getInt(4) ? null : payload;
    }

    /** Returns the position after a record. */
    static long after(long at, ByteBuffer payload) {
        return at + RECORD_HEADER + payload.limit();
    }

    /** Removes everything after a position. */
    void cutBack(long at) throws IOException {
        channel.truncate(at);
        size = at;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }

    private ByteBuffer readAll(long at, int count) throws IOException {
        if (at + count > size) {
            return null;
        }
        ByteBuffer bytes = ByteBuffer.allocate(count);
        while (bytes.hasRemaining()) {
            if (channel.read(bytes, at + bytes.position()) < 0) {
                return null;
            }
        }
        return bytes.flip();
    }

    private static int checksum(ByteBuffer payload) {
        CRC32C crc = new CRC32C();
        crc.update(payload.duplicate());
        return (int) crc.getValue();
    }

    private static void writeAll(FileChannel channel, ByteBuffer bytes, long at) throws IOException {
        while (bytes.hasRemaining()) {
            channel.write(bytes, at + bytes.position());
        }
    }
}
