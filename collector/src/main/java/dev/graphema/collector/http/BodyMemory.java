package dev.graphema.collector.http;

import java.util.concurrent.atomic.AtomicLong;

/** Bounds the memory of all bodies together. Thread-safe. */
final class BodyMemory {
    private final long most;
    private final AtomicLong taken = new AtomicLong();

    /** @param most in bytes */
    BodyMemory(long most) {
        this.most = most;
    }

    long most() {
        return most;
    }

    /** Takes memory; false if there is not enough. */
    boolean take(long bytes) {
        if (taken.addAndGet(bytes) <= most) {
            return true;
        }
        taken.addAndGet(-bytes);
        return false;
    }

    void release(long bytes) {
        taken.addAndGet(-bytes);
    }
}
