package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.format.Utf8Buffer;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Objects;

/** Writes to a stream that belongs to somebody else, such as standard output: it is flushed, but never closed. */
public final class StreamSink implements Sink {
    private static final int FULL = 8 * 1024;

    private final OutputStream stream;
    private final Format format;
    private final Utf8Buffer buffer = new Utf8Buffer(FULL + 1024);

    public StreamSink(OutputStream stream, Format format) {
        this.stream = Objects.requireNonNull(stream, "stream");
        this.format = Objects.requireNonNull(format, "format");
    }

    @Override
    public void write(Event event) throws IOException {
        format.write(event, buffer);
        if (buffer.length() >= FULL) {
            flush();
        }
    }

    @Override
    public void flush() throws IOException {
        try {
            buffer.writeTo(stream);
            stream.flush();
        } finally {
            // A stream does not say how much it took, so trying again could write lines twice.
            buffer.clear();
        }
    }
}
