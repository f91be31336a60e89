package dev.graphema.segments.file;

import com.github.luben.zstd.Zstd;
import dev.graphema.segments.column.ByteWriter;
import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;

/**
 * Writes the blocks of a new file under a temporary name. The file gets its name when it is complete and on the disk, so a
 * reader never sees a part of it. For one thread.
 */
public final class BlockWriter implements Closeable {
    private static final int ZSTD_LEVEL = 3;

    private final Path file;
    private final Path unfinished;
    private final FileChannel channel;
    private long offset;
    private boolean isFinished;

    /** @param file the name of the complete file */
    public BlockWriter(Path file) throws IOException {
        this.file = file;
        this.unfinished = file.resolveSibling(file.getFileName() + ".unfinished");
        this.channel = FileChannel.open(
                unfinished, StandardOpenOption.CREATE, StandardOpenOption.TRUNCATE_EXISTING, StandardOpenOption.WRITE);
        ByteWriter header = new ByteWriter(SegmentForm.HEADER);
        write(header.putInt(SegmentForm.MAGIC).putInt(SegmentForm.VERSION));
    }

    /** Writes a block. */
    public Directory.Block block(ByteWriter bytes) throws IOException {
        long begin = offset;
        write(bytes);
        return new Directory.Block(begin, bytes.length(), SegmentForm.checksum(bytes.array(), bytes.length()));
    }

    /** Writes the directory, and publishes the file. */
    public void finish(Directory directory) throws IOException {
        ByteWriter plain = new ByteWriter(1 << 16);
        directory.writeTo(plain);
        byte[] packed = Zstd.compress(plain.copy(), ZSTD_LEVEL);
        ByteWriter last = new ByteWriter(packed.length + SegmentForm.TRAILER).put(packed);
        last.putLong(offset)
                .putInt(packed.length)
                .putInt(plain.length())
                .putInt(SegmentForm.checksum(packed, packed.length))
                .putInt(SegmentForm.MAGIC)
                .putInt(SegmentForm.VERSION);
        write(last);
        channel.force(true);
        channel.close();
        Files.move(unfinished, file, StandardCopyOption.ATOMIC_MOVE);
        isFinished = true;
    }

    private void write(ByteWriter bytes) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(bytes.array(), 0, bytes.length());
        while (buffer.hasRemaining()) {
            channel.write(buffer);
        }
        offset += bytes.length();
    }

    /** Removes the file if it was not finished. */
    @Override
    public void close() throws IOException {
        channel.close();
        if (!isFinished) {
            Files.deleteIfExists(unfinished);
        }
    }
}
