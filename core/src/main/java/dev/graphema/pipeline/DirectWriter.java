package dev.graphema.pipeline;

import dev.graphema.event.Event;
import dev.graphema.failure.FailurePolicy;
import java.util.function.BooleanSupplier;

/** Writes single events on their callers' threads, one at a time. Its own monitor is the lock of the sink. */
final class DirectWriter {
    private final Delivery delivery;

    DirectWriter(Delivery delivery) {
        this.delivery = delivery;
    }

    /**
     * Writes and flushes the event. The caller's interrupt is put aside meanwhile, because an interrupted thread closes the
     * channels that it writes to.
     *
     * @param isOpen asked under the lock
     * @return false when the event was not written
     */
    boolean write(Event event, BooleanSupplier isOpen) {
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

    private synchronized boolean writeAlone(Event event, BooleanSupplier isOpen) {
        if (!isOpen.getAsBoolean()) {
            return false;
        }
        try {
            delivery.sink.write(event);
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
