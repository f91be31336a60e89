package dev.graphema.pipeline;

import dev.graphema.event.Event;
import java.io.IOException;

/**
 * Writes each event at once, on the caller's thread, which waits for the sink: for small programs and tests. What cannot be
 * written is counted and reported; nothing is tried again, but what the sink itself keeps.
 */
final class DirectDelivery extends Delivery {
    private final Object writing = new Object();
    private boolean closed;

    DirectDelivery(String name, Pipeline.Target target) {
        super(name, target);
    }

    @Override
    void handOver(Event event) {
        if (Thread.holdsLock(writing)) {
            health.count(event.level()); // the sink itself said something: it would write for ever
            return;
        }
        synchronized (writing) {
            if (closed) {
                health.count(event.level());
                return;
            }
            try {
                sink.write(event);
                sink.flush();
                countWritten(1);
                succeeded();
            } catch (IOException | RuntimeException | LinkageError | StackOverflowError e) {
                health.count(event.level());
                failed(e, "the event is lost");
            }
        }
    }

    @Override
    void start() {
        // nothing runs
    }

    @Override
    boolean awaitWritten(long by) {
        return true;
    }

    @Override
    void beginClose(long by) {
        synchronized (writing) {
            if (!closed) {
                closed = true;
                closeSink();
            }
        }
    }

    @Override
    boolean awaitClose() {
        return health.total() == 0;
    }
}
