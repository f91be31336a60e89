package dev.graphema.sink;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import java.io.IOException;
import java.time.Duration;
import java.util.Objects;

/** A sink that is opened with the first event, and again with the next one if that fails. */
public final class LateSink implements Sink {
    /** Opens the sink; called on its thread. */
    @FunctionalInterface
    public interface Opener {
        Sink open() throws IOException;
    }

    private final Opener opener;
    private volatile Sink sink;

    public LateSink(Opener opener) {
        this.opener = Objects.requireNonNull(opener, "opener");
    }

    @Override
    public void write(Event event) throws IOException {
        open().write(event);
    }

    @Override
    public void write(EventRecord event) throws IOException {
        open().write(event);
    }

    private Sink open() throws IOException {
        if (sink == null) {
            sink = opener.open();
        }
        return sink;
    }

    @Override
    public void flush() throws IOException {
        if (sink != null) {
            sink.flush();
        }
    }

    @Override
    public long discard() {
        return sink == null ? 0 : sink.discard();
    }

    @Override
    public Backlog backlog() {
        Sink opened = sink;
        return opened == null ? Backlog.NONE : opened.backlog();
    }

    @Override
    public Duration patience() {
        return sink == null ? Duration.ZERO : sink.patience();
    }

    @Override
    public void idle() throws IOException {
        if (sink != null) {
            sink.idle();
        }
    }

    @Override
    public void close() throws IOException {
        if (sink != null) {
            sink.close();
        }
    }

    @Override
    public String toString() {
        return sink == null ? "a sink that is not open yet" : sink.toString();
    }
}
