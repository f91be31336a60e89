package dev.graphema.query;

import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Reports the bytes that are read, and ends if the reading is cancelled. */
final class CountedStream extends FilterInputStream {
    private final Reading reading;

    CountedStream(InputStream in, Reading reading) {
        super(in);
        this.reading = reading;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] bytes, int offset, int length) throws IOException {
        if (reading.isStopped()) {
            return -1;
        }
        int count = super.read(bytes, offset, length);
        return count > 0 && !reading.bytes(count) ? -1 : count;
    }

    @Override
    public boolean markSupported() {
        return false;
    }
}
