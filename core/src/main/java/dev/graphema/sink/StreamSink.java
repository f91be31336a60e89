package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.io.OutputStream;
import java.util.Objects;

/**
 * Writes to a stream of the caller, such as standard output, which is flushed but not closed.
 *
 * <p>After a failure, a stream does not report how much it has written, so a retry could write lines twice. Gathered
 * events are then lost, and {@link #flush} reports their number with a {@link RefusedException}.
 */
public final class StreamSink implements Sink {
    private static final int FULL = 8 * 1024;

    private final OutputStream stream;
    private final Format format;
    private final Utf8Buffer buffer = new Utf8Buffer(FULL + 1024);

    private long gathered;
    private long lost;
    private IOException problem;

    public StreamSink(OutputStream stream, Format format) {
        this.stream = Objects.requireNonNull(stream, "stream");
        this.format = Objects.requireNonNull(format, "format");
    }

    @Override
    public void write(Event event) {
        int before = buffer.length();
        try {
            format.write(event, buffer);
        } catch (Throwable e) {
            buffer.cutBack(before);
            throw e;
        }
        gathered++;
        if (buffer.length() >= FULL) {
            writeOut();
        }
    }

    @Override
    public void flush() throws IOException {
        writeOut();
        if (lost > 0) {
            long count = lost;
            lost = 0;
            throw new RefusedException(problem.toString(), count);
        }
    }

    private void writeOut() {
        try {
            buffer.writeTo(stream);
            stream.flush();
        } catch (IOException e) {
            problem = e;
            lost += gathered;
        } finally {
            buffer.clear();
            gathered = 0;
        }
    }

    @Override
    public long discard() {
        long count = gathered;
        buffer.clear();
        gathered = 0;
        return count;
    }
}
