package dev.graphema.collector.follow;

import java.io.Closeable;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.concurrent.TimeUnit;
import java.util.zip.CRC32C;

/** An open file, which is read on when it grows, also after it was renamed or deleted. For one thread. */
final class FollowedFile implements Closeable {
    static final int HEAD_BYTES = 256;

    // As many lines as the store appends at once also with what is added to each: the place of all is in each of them.
    private static final int USUAL_BLOCK = 256 << 10;
    private static final int MOST_LINES = 4_000;

    /** A longer line is divided. */
    private static final int LARGEST_BLOCK = 16 << 20;

    /** An event of text may have more lines, which are written a moment later. */
    private static final long QUIET_NANOS = TimeUnit.MILLISECONDS.toNanos(1_500);

    private final FileChannel channel;
    private Place place;
    private int block = USUAL_BLOCK;
    private long sizeBefore = -1;
    private long grownAt = System.nanoTime();

    private FollowedFile(FileChannel channel, Place place) {
        this.channel = channel;
        this.place = place;
    }

    static FollowedFile open(Path file, Place place) throws IOException {
        return new FollowedFile(FileChannel.open(file, StandardOpenOption.READ), place);
    }

    Place place() {
        return place;
    }

    /** Returns the checksum of the first bytes of a file, up to as many as it has. */
    static Place identified(Path file, String key, String log) throws IOException {
        int length = (int) Math.min(HEAD_BYTES, Files.size(file));
        return new Place(key, head(file, length), length, log, file.toString(), 0, false);
    }

    /** Returns whether a file begins as the one of a place did. */
    static boolean isSame(Path file, Place place) throws IOException {
        return Files.size(file) >= place.headBytes() && head(file, place.headBytes()) == place.head();
    }

    private static long head(Path file, int length) throws IOException {
        try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
            ByteBuffer bytes = ByteBuffer.allocate(length);
            while (bytes.hasRemaining() && channel.read(bytes) >= 0) {
                // on until the buffer is full
            }
            return checksum(bytes);
        }
    }

    /** Returns whether the file was emptied, to be written anew. */
    boolean isEmptied() throws IOException {
        return channel.size() < place.position();
    }

    /** Returns how long it has not grown, in nanoseconds. */
    long quietNanos() throws IOException {
        long size = channel.size();
        if (size != sizeBefore) {
            sizeBefore = size;
            grownAt = System.nanoTime();
        }
        return System.nanoTime() - grownAt;
    }

    /**
     * Returns complete lines that are not stored yet; empty for none.
     *
     * @param isEnded whether nothing more is written to the file, so that its last line is complete without a line feed
     */
    byte[] next(boolean isEnded) throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate((int) Math.min(block, Math.max(0, channel.size() - place.position())));
        while (bytes.hasRemaining() && channel.read(bytes, place.position() + bytes.position()) > 0) {
            // on until the buffer is full
        }
        int length = bytes.position();
        boolean isWhole = length < block;
        int end = endOfLines(bytes, length);
        if (end == 0 && !isWhole && block < LARGEST_BLOCK) {
            block *= 2;
            return next(isEnded);
        }
        if (end == 0 && (!isWhole || isEnded)) {
            end = length;
        }
        boolean isLast = isWhole && end == length;
        boolean mayContinue = end > 0 && isLast && !isEnded && !isJsonAtEnd(bytes, end);
        if (mayContinue && quietNanos() < QUIET_NANOS) {
            return new byte[0];
        }
        block = USUAL_BLOCK;
        return Arrays.copyOf(bytes.array(), end);
    }

    /** Returns the end of the last complete line, of {@value #MOST_LINES} lines, or of a long one; 0 if there is none. */
    private int endOfLines(ByteBuffer bytes, int length) {
        int end = 0;
        int lines = block > USUAL_BLOCK ? MOST_LINES - 1 : 0;
        for (int i = 0; i < length && lines < MOST_LINES; i++) {
            if (bytes.get(i) == '\n') {
                end = i + 1;
                lines++;
            }
        }
        return end;
    }

    private static boolean isJsonAtEnd(ByteBuffer bytes, int end) {
        int last = end - 1;
        while (last > 0 && bytes.get(last) <= ' ') {
            last--;
        }
        return bytes.get(last) == '}';
    }

    /** Returns the place with the checksum of more bytes, now that the file has them. */
    Place withMoreHead(Place now) throws IOException {
        int length = (int) Math.min(HEAD_BYTES, now.position());
        ByteBuffer bytes = ByteBuffer.allocate(length);
        while (bytes.hasRemaining() && channel.read(bytes, bytes.position()) > 0) {
            // on until the buffer is full
        }
        return now.withHead(checksum(bytes), length);
    }

    private static long checksum(ByteBuffer bytes) {
        CRC32C crc = new CRC32C();
        crc.update(bytes.flip());
        return crc.getValue();
    }

    void stored(Place now) {
        place = now;
    }

    @Override
    public void close() throws IOException {
        channel.close();
    }
}
