package dev.graphema.segments.column;

import java.io.IOException;
import java.io.InputStream;

/** A stream of ranges of arrays, one after the other. For one thread. */
public abstract class PieceStream extends InputStream {
    private byte[] bytes;
    private int at;
    private int end;

    /**
     * Moves to the next piece with {@link #piece}.
     *
     * @return false if there are no more
     */
    protected abstract boolean hasNextPiece() throws IOException;

    /** Defines the current piece. */
    protected final void piece(byte[] array, int from, int to) {
        bytes = array;
        at = from;
        end = to;
    }

    @Override
    public final int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public final int read(byte[] to, int from, int most) throws IOException {
        int count = 0;
        while (count < most) {
            if (at == end && !hasNextPiece()) {
                return count == 0 ? -1 : count;
            }
            int more = Math.min(end - at, most - count);
            System.arraycopy(bytes, at, to, from + count, more);
            at += more;
            count += more;
        }
        return count;
    }
}
