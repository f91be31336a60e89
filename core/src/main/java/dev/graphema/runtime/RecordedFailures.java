package dev.graphema.runtime;

import dev.graphema.failure.FailurePolicy;
import java.lang.ref.WeakReference;
import java.util.concurrent.atomic.AtomicReferenceArray;

/**
 * The throwables that were recorded last, by any thread: a failure in a pool is often reported again by the thread that
 * waits for the result. Does not keep them in memory. If two have the same index, the later one replaces the earlier
 * one, which may then be recorded again.
 */
public final class RecordedFailures {
    private static final int PLACES = 1024;

    /** How far causes are followed. */
    private static final int DEPTH = 16;

    private final AtomicReferenceArray<Entry> places = new AtomicReferenceArray<>(PLACES);

    /** A throwable that was recorded, and the fingerprint of the failure under which it can be found. */
    record Entry(WeakReference<Throwable> throwable, String fingerprint) {
        boolean is(Throwable failure) {
            return throwable.refersTo(failure);
        }
    }

    /** Records the failure with all its causes. */
    void add(Throwable failure, String fingerprint) {
        Throwable each = failure;
        for (int i = 0; i < DEPTH && each != null; i++) {
            places.set(place(each), new Entry(new WeakReference<>(each), fingerprint));
            each = cause(each);
        }
    }

    /** Returns whether the throwable or one of its causes is recorded. */
    public boolean has(Throwable failure) {
        return find(failure) != null;
    }

    /** Returns the entry of the throwable, or of the first of its causes that is recorded; null if there is none. */
    Entry find(Throwable failure) {
        Throwable each = failure;
        for (int i = 0; i < DEPTH && each != null; i++) {
            Entry entry = places.get(place(each));
            if (entry != null && entry.is(each)) {
                return entry;
            }
            each = cause(each);
        }
        return null;
    }

    private static Throwable cause(Throwable failure) {
        try {
            return failure.getCause();
        } catch (Throwable e) {
            FailurePolicy.contain(e);
            return null; // the throwable's own method fails
        }
    }

    private static int place(Throwable failure) {
        int hash = System.identityHashCode(failure);
        return (hash ^ hash >>> 16) & PLACES - 1;
    }
}
