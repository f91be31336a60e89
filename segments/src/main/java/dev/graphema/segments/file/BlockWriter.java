package dev.graphema.segments.file;

import com.github.luben.zstd.Zstd;
import dev.graphema.segments.column.ByteWriter;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.WritableByteChannel;

/** Writes the blocks and the directory of a segment. For one thread. */
public final class BlockWriter {
    private static final int ZSTD_LEVEL = 3;

    private final WritableByteChannel to;
    private long offset;

    /** @param to receives the bytes, from the first one of the segment on; it is not closed */
    public BlockWriter(WritableByteChannel to) throws IOException {
        this.to = to;
        ByteWriter header = new ByteWriter(SegmentForm.HEADER);
        write(header.putInt(SegmentForm.MAGIC).putInt(SegmentForm.VERSION));
    }

    /** Writes a block. */
    public Directory.Block block(ByteWriter bytes) throws IOException {
        long begin = offset;
        write(bytes);
        return new Directory.Block(begin, bytes.length(), SegmentForm.checksum(bytes.array(), bytes.length()));
    }

    /** Writes the directory, which ends the segment. */
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
    }

    private void write(ByteWriter bytes) throws IOException {
        ByteBuffer buffer = ByteBuffer.wrap(bytes.array(), 0, bytes.length());
        while (buffer.hasRemaining()) {
            to.write(buffer);
        }
        offset += bytes.length();
    }
}
