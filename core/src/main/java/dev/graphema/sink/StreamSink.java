package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.format.Format;
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
    private final GatheredEvents gathered;

    private long lost;
    private IOException problem;

    public StreamSink(OutputStream stream, Format format) {
        this.stream = Objects.requireNonNull(stream, "stream");
        this.gathered = new GatheredEvents(Objects.requireNonNull(format, "format"), FULL + 1024);
    }

    @Override
    public void write(Event event) {
        gathered.add(event);
        writeOutIfFull();
    }

    @Override
    public void write(EventRecord event) {
        gathered.add(event);
        writeOutIfFull();
    }

    private void writeOutIfFull() {
        if (gathered.length() >= FULL) {
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
            gathered.writeTo(stream);
            stream.flush();
        } catch (IOException e) {
            problem = e;
            lost += gathered.count();
        } finally {
            gathered.clear();
        }
    }

    @Override
    public long discard() {
        return gathered.clear();
    }
}
