package dev.graphema.lines;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** The first bytes of a stream. */
final class LimitedStream extends FilterInputStream {
    private long left;

    LimitedStream(InputStream in, long length) {
        super(in);
        left = length;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] bytes, int offset, int length) throws IOException {
        if (left == 0) {
            return -1;
        }
        int count = super.read(bytes, offset, (int) Math.min(length, left));
        left -= Math.max(0, count);
        return count;
    }
}
