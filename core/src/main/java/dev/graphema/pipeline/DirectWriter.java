package dev.graphema.pipeline;

import dev.graphema.failure.FailurePolicy;
import dev.graphema.sink.Sink;
import java.io.IOException;
import java.util.function.BooleanSupplier;

/** Writes single events on their callers' threads, one at a time. Its own monitor is the lock of the sink. */
final class DirectWriter {
    private final Delivery delivery;

    /** Writes an event, without flushing it. */
    @FunctionalInterface
    interface Writing {
        void to(Sink sink) throws IOException;
    }

    DirectWriter(Delivery delivery) {
        this.delivery = delivery;
    }

    /**
     * Writes and flushes the event. The caller's interrupt is deferred meanwhile, because an interrupted thread closes the
     * channels that it writes to.
     *
     * @param event writes the event to the sink
     * @param isOpen asked under the lock
     * @return false when the event was not written
     */
    boolean write(Writing event, BooleanSupplier isOpen) {
        if (Thread.holdsLock(this)) {
            return false; // the sink itself logs an event: it would write for ever
        }
        boolean interrupted = Thread.interrupted();
        try {
            return writeAlone(event, isOpen);
        } finally {
            if (interrupted) {
                Thread.currentThread().interrupt();
            }
        }
    }

    private synchronized boolean writeAlone(Writing event, BooleanSupplier isOpen) {
        if (!isOpen.getAsBoolean()) {
            return false;
        }
        try {
            event.to(delivery.sink);
            delivery.sink.flush();
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            delivery.failed(e, "the event is lost");
            return false;
        }
        delivery.countWritten(1);
        delivery.succeeded();
        return true;
    }
}
