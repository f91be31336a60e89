package dev.graphema.segments.log;

import dev.graphema.segments.column.PieceStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.function.Consumer;

/**
 * The lines of a log as a stream. A damaged batch is left out and reported, and the ones behind it are read; an incomplete one
 * at the end is that of a process which is writing it, or was interrupted, and was never confirmed. Only some batches
 * are in memory at a time. For one thread.
 */
public final class LogLines extends PieceStream {
    // Where the parts of the header of a batch are.
    private static final int LENGTH = 4;
    private static final int CHECKSUM = 8;
    private static final int HEADER_CHECKSUM = 12;

    /** How many bytes are read at once; more if a batch is longer. */
    private static final int PIECE = 1 << 18;

    private final Consumer<String> damage;
    private final FileChannel channel;

    /** Where reading began in the file. */
    private final long first;

    /** Where the log ends in the file. */
    private long end;

    /** A part of the log. */
    private ByteBuffer bytes = LogForm.buffer(PIECE).limit(0);

    /** Where this part begins in the file. */
    private long begin;

    /** Where the next batch begins in the file. */
    private long next;

    /** Where the lines of the current batch begin in the part. */
    private int start;

    /**
     * Opens a log.
     *
     * @param from where a batch begins; 0 for the first one
     * @param damage receives a sentence for each damaged place
     * @throws IOException if it cannot be read
     */
    public LogLines(Path path, long from, Consumer<String> damage) throws IOException {
        this(path, from, Long.MAX_VALUE, damage);
    }

    /**
     * As above.
     *
     * @param to where a batch ends, of which none behind is read; {@link Long#MAX_VALUE} for all
     */
    public LogLines(Path path, long from, long to, Consumer<String> damage) throws IOException {
        this.damage = damage;
        this.first = Math.max(from, LogForm.HEADER);
        this.next = first;
        this.channel = FileChannel.open(path, StandardOpenOption.READ);
        try {
            this.end = Math.min(to, channel.size());
            // One that its process had just created is empty, or after a power failure, has zeros.
            if (has(0, LogForm.HEADER) && !isZero(0, LogForm.HEADER) && !isHeader()) {
                damage.accept("it does not begin as a log of a store of version " + LogForm.VERSION
                        + "; valid batches of events are read nevertheless");
            }
        } catch (IOException | RuntimeException | Error e) {
            channel.close();
            throw e;
        }
    }

    private boolean isHeader() throws IOException {
        return number(0) == LogForm.MAGIC && number(4) == LogForm.VERSION;
    }

    private boolean isZero(long from, long to) throws IOException {
        for (long place = from; place < to && has(place, 1); place++) {
            if (bytes.get((int) (place - begin)) != 0) {
                return false;
            }
        }
        return true;
    }

    /** Returns whether the log has these bytes, which are in the part then. */
    private boolean has(long place, long length) throws IOException {
        if (end - place < length) {
            return false;
        }
        if (place < begin || place + length > begin + bytes.limit()) {
            move(place, (int) Math.max(length, Math.min(PIECE, end - place)));
        }
        return bytes.limit() >= place - begin + length;
    }

    /** Makes the part one that begins at a place. */
    private void move(long place, int length) throws IOException {
        ByteBuffer from = bytes;
        if (bytes.capacity() < length) {
            bytes = LogForm.buffer(length);
        }
        int kept = 0;
        if (place >= begin && place < begin + from.limit()) {
            kept = (int) (begin + from.limit() - place);
            System.arraycopy(from.array(), (int) (place - begin), bytes.array(), 0, kept);
        }
        begin = place;
        bytes.limit(length).position(kept);
        while (bytes.hasRemaining() && channel.read(bytes, begin + bytes.position()) > 0) {
            // on until all is read
        }
        bytes.flip();
        if (bytes.limit() < length) {
            end = begin + bytes.limit(); // it was cut off meanwhile
        }
    }

    private int number(long place) {
        return bytes.getInt((int) (place - begin));
    }

    /** Returns where the next batch begins in the file; at the end, where it will begin if one is added. */
    public long offset() {
        return next;
    }

    /** Moves to the next batch, and returns its lines, which are valid until the next call; null if there are no more. */
    public ByteBuffer nextBatch() throws IOException {
        return hasNextPiece() ? ByteBuffer.wrap(bytes.array(), start, (int) (next - begin) - start) : null;
    }

    /** Moves to the next batch. */
    @Override
    protected boolean hasNextPiece() throws IOException {
        if (!isValid(next)) {
            long valid = next + 1;
            while (valid < end && !isValid(valid)) {
                valid++;
            }
            boolean isOver = valid >= end;
            if (!isOver || !isIncomplete(next) && !isZero(first, end)) {
                damage.accept("the bytes from " + next + " to " + Math.min(valid, end)
                        + " are damaged; their events are left out");
            }
            if (isOver) {
                next = isIncomplete(next) ? next : end;
                return false;
            }
            next = valid;
        }
        start = (int) (next - begin) + LogForm.BATCH_HEADER;
        int length = number(next + LENGTH);
        next += LogForm.BATCH_HEADER + length;
        piece(bytes.array(), start, start + length);
        return true;
    }

    /** Returns whether a batch begins at this place, which is in the part then. */
    private boolean isValid(long place) throws IOException {
        return hasHeader(place)
                && has(place, LogForm.BATCH_HEADER + (long) number(place + LENGTH))
                && LogForm.checksum(bytes.array(), (int) (place - begin) + LogForm.BATCH_HEADER, number(place + LENGTH))
                        == number(place + CHECKSUM);
    }

    /** Returns whether a batch begins at this place but not all of it is there; also if nothing is. */
    private boolean isIncomplete(long place) throws IOException {
        long room = end - place - LogForm.BATCH_HEADER;
        return room < 0 || hasHeader(place) && number(place + LENGTH) > room;
    }

    private boolean hasHeader(long place) throws IOException {
        return has(place, LogForm.BATCH_HEADER)
                && number(place) == LogForm.BATCH_MAGIC
                && number(place + LENGTH) > 0
                && LogForm.checksum(bytes.array(), (int) (place - begin), HEADER_CHECKSUM)
                        == number(place + HEADER_CHECKSUM);
    }

    /** Closes the file. */
    @Override
    public void close() throws IOException {
        channel.close();
    }
}
