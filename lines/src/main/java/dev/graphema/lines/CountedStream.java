package dev.graphema.lines;

import dev.graphema.query.source.CoverageBuilder;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;

/** Reports the bytes that are read, and ends if the reading is cancelled. */
final class CountedStream extends FilterInputStream {
    private final CoverageBuilder coverage;

    CountedStream(InputStream in, CoverageBuilder coverage) {
        super(in);
        this.coverage = coverage;
    }

    @Override
    public int read() throws IOException {
        byte[] one = new byte[1];
        return read(one, 0, 1) < 0 ? -1 : one[0] & 0xFF;
    }

    @Override
    public int read(byte[] bytes, int offset, int length) throws IOException {
        if (coverage.isStopped()) {
            return -1;
        }
        int count = super.read(bytes, offset, length);
        return count > 0 && !coverage.bytes(count) ? -1 : count;
    }

    @Override
    public boolean markSupported() {
        return false;
    }
}
