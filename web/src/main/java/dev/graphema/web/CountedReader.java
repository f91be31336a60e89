package dev.graphema.web;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.charset.StandardCharsets;

/**
 * Counts, and keeps in part, the text that a servlet reads through the reader of the container; does not read ahead.
 */
final class CountedReader extends BufferedReader {
    private final BufferedReader from;
    private final BodyHead body;
    private final EncodedLength length;

    CountedReader(BufferedReader from, BodyHead body, EncodedLength length) {
        super(from, 1);
        this.from = from;
        this.body = body;
        this.length = length;
    }

    @Override
    public int read() throws IOException {
        int c = from.read();
        if (c >= 0) {
            count(String.valueOf((char) c));
        }
        return c;
    }

    @Override
    public int read(char[] chars, int offset, int most) throws IOException {
        int count = from.read(chars, offset, most);
        if (count > 0) {
            count(new String(chars, offset, count));
        }
        return count;
    }

    @Override
    public String readLine() throws IOException {
        String line = from.readLine();
        if (line != null) {
            count(line);
            if (from.ready()) {
                count("\n"); // a reader does not report the length of the line end
            }
        }
        return line;
    }

    /** The body is kept as UTF-8, independent of its encoding. */
    private void count(String text) {
        body.keep(text.getBytes(StandardCharsets.UTF_8), length.of(text, 0, text.length()));
    }

    @Override
    public boolean ready() throws IOException {
        return from.ready();
    }

    @Override
    public long skip(long count) throws IOException {
        return from.skip(count);
    }

    @Override
    public boolean markSupported() {
        return from.markSupported();
    }

    @Override
    public void mark(int limit) throws IOException {
        from.mark(limit);
    }

    @Override
    public void reset() throws IOException {
        from.reset();
    }

    @Override
    public void close() throws IOException {
        from.close();
    }
}
