package dev.graphema.pipeline;

import java.util.concurrent.atomic.AtomicLongArray;
import java.util.concurrent.locks.LockSupport;

/**
 * Counts who is inside, so that somebody else can wait until nobody is. Entering and leaving write to one of several places
 * that lie apart, chosen by the thread, so that threads seldom meet.
 */
final class ActiveCalls {
    private static final int STRIPES = 16;

    /** Longs between two places: two cache lines of 64 bytes, since lines are fetched in pairs. */
    private static final int APART = 16;

    private final AtomicLongArray inside = new AtomicLongArray((STRIPES + 1) * APART);

    /** Enters. @return what {@link #leave} needs */
    int enter() {
        int place = ((int) Thread.currentThread().getId() & STRIPES - 1) * APART + APART;
        inside.getAndIncrement(place);
        return place;
    }

    void leave(int place) {
        inside.getAndDecrement(place);
    }

    /** Waits until nobody is inside, up to that time of {@link System#nanoTime}; nobody may enter any more. */
    boolean awaitNone(long by) {
        while (!isEmpty()) {
            if (System.nanoTime() - by >= 0) {
                return false;
            }
            LockSupport.parkNanos(100_000);
        }
        return true;
    }

    /** Sums over all places: one thread enters and leaves at the same one, so no place is ever below zero. */
    private boolean isEmpty() {
        for (int i = 1; i <= STRIPES; i++) {
            if (inside.get(i * APART) != 0) {
                return false;
            }
        }
        return true;
    }
}
