package dev.graphema.segments.log;

import dev.graphema.segments.column.PieceStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.function.Consumer;

/**
 * The lines of a log as a stream. A damaged batch is left out and reported, and the ones behind it are read; an incomplete one
 * at the end is that of a process which is writing it, or was interrupted, and nobody was told that it is stored. The log, which
 * has a bounded size, is read into memory. For one thread.
 */
public final class LogLines extends PieceStream {
    // Where the parts of the header of a batch are.
    private static final int LENGTH = 4;
    private static final int CHECKSUM = 8;
    private static final int HEADER_CHECKSUM = 12;

    private final Consumer<String> damage;

    /** The log from the first batch to read. */
    private final ByteBuffer bytes;

    /** Where these bytes begin in the file. */
    private final long offset;

    /** Where the next batch begins in these bytes. */
    private int next;

    /** Where the lines of the current batch begin in these bytes. */
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
        this.offset = Math.max(from, LogForm.HEADER);
        try (FileChannel channel = FileChannel.open(path, StandardOpenOption.READ)) {
            ByteBuffer header = read(channel, 0, LogForm.HEADER);
            bytes = read(channel, offset, Math.toIntExact(Math.max(0, Math.min(to, channel.size()) - offset)));
            // One that its process had just created is empty, or after a power failure, has zeros.
            if (header.limit() == LogForm.HEADER && !isZero(header) && !isHeader(header)) {
                damage.accept("it does not begin as a log of a store of version " + LogForm.VERSION
                        + "; valid batches of events are read nevertheless");
            }
        }
    }

    private static boolean isHeader(ByteBuffer header) {
        return header.getInt(0) == LogForm.MAGIC && header.getInt(4) == LogForm.VERSION;
    }

    private static boolean isZero(ByteBuffer bytes) {
        for (int i = 0; i < bytes.limit(); i++) {
            if (bytes.get(i) != 0) {
                return false;
            }
        }
        return true;
    }

    private static ByteBuffer read(FileChannel channel, long from, int most) throws IOException {
        ByteBuffer bytes = ByteBuffer.allocate(most).order(ByteOrder.LITTLE_ENDIAN);
        while (bytes.hasRemaining() && channel.read(bytes, from + bytes.position()) > 0) {
            // on until all is read
        }
        return bytes.flip();
    }

    /** Returns where the next batch begins in the file; at the end, where it will begin if one is added. */
    public long offset() {
        return offset + next;
    }

    /** Moves to the next batch, and returns its lines; null if there are no more. */
    public ByteBuffer nextBatch() {
        return hasNextPiece() ? ByteBuffer.wrap(bytes.array(), start, next - start) : null;
    }

    /** Moves to the next batch. */
    @Override
    protected boolean hasNextPiece() {
        if (!isValid(next)) {
            int valid = next + 1;
            while (valid < bytes.limit() && !isValid(valid)) {
                valid++;
            }
            boolean isOver = valid >= bytes.limit();
            if (!isOver || !isIncomplete(next) && !isZero(bytes)) {
                damage.accept("the bytes from " + offset() + " to " + (offset + Math.min(valid, bytes.limit()))
                        + " are damaged; their events are left out");
            }
            if (isOver) {
                next = isIncomplete(next) ? next : bytes.limit();
                return false;
            }
            next = valid;
        }
        start = next + LogForm.BATCH_HEADER;
        next = start + bytes.getInt(next + LENGTH);
        piece(bytes.array(), start, next);
        return true;
    }

    private boolean isValid(int place) {
        return hasHeader(place)
                && bytes.getInt(place + LENGTH) <= room(place)
                && LogForm.checksum(bytes.array(), place + LogForm.BATCH_HEADER, bytes.getInt(place + LENGTH))
                        == bytes.getInt(place + CHECKSUM);
    }

    /** Returns whether a batch begins at this place but not all of it is there; also if nothing is. */
    private boolean isIncomplete(int place) {
        return room(place) < 0 || hasHeader(place) && bytes.getInt(place + LENGTH) > room(place);
    }

    private boolean hasHeader(int place) {
        return room(place) >= 0
                && bytes.getInt(place) == LogForm.BATCH_MAGIC
                && bytes.getInt(place + LENGTH) > 0
                && LogForm.checksum(bytes.array(), place, HEADER_CHECKSUM) == bytes.getInt(place + HEADER_CHECKSUM);
    }

    /** Returns how many bytes follow a header at this place; negative if there is no room for one. */
    private int room(int place) {
        return bytes.limit() - place - LogForm.BATCH_HEADER;
    }
}
