package dev.graphema.pipeline;

import dev.graphema.event.Draft;

/**
 * Writes each event at once, on the caller's thread, which waits for the sink: for small programs and tests. What cannot be
 * written is counted and reported, and is not tried again, except by the sink itself.
 */
final class DirectDelivery extends Delivery {
    private final DirectWriter writer;

    /** Guarded by the writer's lock. */
    private boolean closed;

    DirectDelivery(String name, Pipeline.Target target) {
        super(name, target);
        writer = new DirectWriter(this);
    }

    @Override
    boolean offer(Draft event) {
        return writer.write(sink -> sink.write(event.finish()), () -> !closed);
    }

    @Override
    long queuedBytes() {
        return 0;
    }

    @Override
    void start() {
        // no thread
    }

    @Override
    boolean awaitWritten(long by) {
        return true;
    }

    @Override
    void beginEnd(Ending ending, long by) {
        synchronized (writer) {
            if (!closed && ending == Ending.CLOSE) {
                closed = true;
                closeSink();
            }
        }
    }

    @Override
    boolean awaitEnd() {
        return health.total() == 0;
    }
}
