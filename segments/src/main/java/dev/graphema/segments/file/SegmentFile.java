package dev.graphema.segments.file;

import com.github.luben.zstd.Zstd;
import com.github.luben.zstd.ZstdException;
import dev.graphema.segments.column.ByteReader;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;

/** An open segment. Safe to share between threads. */
public final class SegmentFile implements Closeable {
    private static final int MOST_OF_DIRECTORY = 1 << 28;

    private final Path path;
    private final FileChannel channel;
    private final long size;
    private final Directory directory;

    private SegmentFile(Path path, FileChannel channel, Directory known) throws IOException {
        this.path = path;
        this.channel = channel;
        this.size = channel.size();
        this.directory = known == null ? directory() : known;
    }

    /**
     * Opens a segment.
     *
     * @throws SegmentException if it is none, or its directory is damaged
     */
    public static SegmentFile open(Path path) throws IOException {
        return open(path, null);
    }

    /**
     * Opens a segment again.
     *
     * @param known its directory
     */
    public static SegmentFile open(Path path, Directory known) throws IOException {
        FileChannel channel = FileChannel.open(path, StandardOpenOption.READ);
        try {
            return new SegmentFile(path, channel, known);
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    private Directory directory() throws IOException {
        if (size == 0) {
            throw new SegmentException(path + " is empty: it is no segment");
        }
        if (size < SegmentForm.HEADER) {
            throw new SegmentException(path + " is no segment: it has only " + size + " bytes");
        }
        ByteReader header = new ByteReader(bytes(0, SegmentForm.HEADER), SegmentForm.HEADER);
        if (header.getInt() != SegmentForm.MAGIC) {
            throw new SegmentException(path + " is no segment: it does not begin as one");
        }
        requireVersion(header.getInt());
        if (size < SegmentForm.HEADER + SegmentForm.TRAILER) {
            throw cutOff();
        }
        long trailerAt = size - SegmentForm.TRAILER;
        ByteReader trailer = new ByteReader(bytes(trailerAt, SegmentForm.TRAILER), SegmentForm.TRAILER);
        long offset = trailer.getLong();
        int packed = trailer.getInt();
        int length = trailer.getInt();
        int checksum = trailer.getInt();
        if (trailer.getInt() != SegmentForm.MAGIC) {
            throw cutOff();
        }
        requireVersion(trailer.getInt());
        if (offset < SegmentForm.HEADER
                || packed < 0
                || length < 0
                || length > MOST_OF_DIRECTORY
                || offset + packed != trailerAt) {
            throw damagedDirectory(null);
        }
        byte[] bytes = bytes(offset, packed);
        if (SegmentForm.checksum(bytes, packed) != checksum) {
            throw damagedDirectory(null);
        }
        try {
            byte[] plain = Zstd.decompress(Arrays.copyOf(bytes, packed), length);
            return Directory.read(new ByteReader(Arrays.copyOf(plain, length + ByteReader.BEHIND), length));
        } catch (ZstdException | IndexOutOfBoundsException e) {
            throw damagedDirectory(e);
        }
    }

    private void requireVersion(int version) throws SegmentException {
        if (version != SegmentForm.VERSION) {
            throw new SegmentException(path + " has version " + version
                    + " of the form of segments; this version of Graphema" + " reads version " + SegmentForm.VERSION
                    + (version > SegmentForm.VERSION ? ": use a newer one" : ""));
        }
    }

    private SegmentException cutOff() {
        return new SegmentException(path + " is cut off: its directory, which is at the end, is missing");
    }

    private SegmentException damagedDirectory(Throwable cause) {
        return new SegmentException(path + " is damaged in its directory, so none of its events can be read", cause);
    }

    public Path path() {
        return path;
    }

    /** Returns the bytes of the file. */
    public long size() {
        return size;
    }

    /** Returns what it contains. */
    public Directory contents() {
        return directory;
    }

    /**
     * Reads a block.
     *
     * @throws SegmentException if its checksum is wrong
     */
    public ByteReader read(Directory.Block block) throws IOException {
        if (block.offset() < 0 || block.length() < 0 || block.offset() + block.length() > size) {
            throw damaged(block, null);
        }
        byte[] bytes = bytes(block.offset(), block.length());
        if (SegmentForm.checksum(bytes, block.length()) != block.checksum()) {
            throw damaged(block, null);
        }
        return new ByteReader(bytes, block.length());
    }

    /** Returns whether the checksum of a block is right. */
    public boolean isSound(Directory.Block block) throws IOException {
        try {
            read(block);
            return true;
        } catch (SegmentException e) {
            return false;
        }
    }

    /** Returns the error for a block with contents that cannot be. */
    public SegmentException damaged(Directory.Block block, RuntimeException cause) {
        return new SegmentException(
                "the block at byte " + block.offset() + " is damaged; its events are left out", cause);
    }

    private byte[] bytes(long offset, int length) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(new byte[length + ByteReader.BEHIND], 0, length);
        while (buffer.hasRemaining()) {
            if (channel.read(buffer, offset + buffer.position()) < 0) {
                throw cutOff();
            }
        }
        return buffer.array();
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
