package dev.graphema.pipeline;

import java.util.concurrent.atomic.AtomicLongArray;
import java.util.concurrent.locks.LockSupport;

/**
 * Counts active calls, so that another thread can wait until there are none. Calls use one of several counters in
 * different cache lines, selected by the thread, so that threads rarely contend.
 */
final class ActiveCalls {
    private static final int STRIPES = 16;

    /** The distance between counters: two cache lines of 64 bytes, because processors fetch lines in pairs. */
    private static final int APART = 16;

    private final AtomicLongArray inside = new AtomicLongArray((STRIPES + 1) * APART);

    /**
     * Begins a call.
     *
     * @return the argument of {@link #leave}
     */
    int enter() {
        int place = ((int) Thread.currentThread().getId() & STRIPES - 1) * APART + APART;
        inside.getAndIncrement(place);
        return place;
    }

    void leave(int place) {
        inside.getAndDecrement(place);
    }

    /** Waits until there are no active calls, up to a time of {@link System#nanoTime}; no call may begin any more. */
    boolean awaitNone(long by) {
        while (!isEmpty()) {
            if (System.nanoTime() - by >= 0) {
                return false;
            }
            LockSupport.parkNanos(100_000);
        }
        return true;
    }

    /** Checks all counters. A thread begins and ends a call at the same one, so none is ever negative. */
    private boolean isEmpty() {
        for (int i = 1; i <= STRIPES; i++) {
            if (inside.get(i * APART) != 0) {
                return false;
            }
        }
        return true;
    }
}
