package dev.graphema.redaction;

import dev.graphema.option.Named;

/**
 * Finds one kind of secret in texts. Thread-safe. Called on the emitting thread: must be linear in the length of the
 * text, and should create no objects if there is nothing to find. Custom detectors are found as services of this type
 * ({@link java.util.ServiceLoader}), and run if settings name them.
 */
public interface Detector extends Named {
    /** Returns the length of the shortest secret; shorter texts are not examined. */
    int shortest();

    /** Returns what a text must contain to be examined; every text by default. */
    default Trigger trigger() {
        return Trigger.ALWAYS;
    }

    /**
     * Finds the next secret.
     *
     * @param from the first character that may belong to it
     * @return its begin and end as {@link #range}, or {@link #NOTHING}
     */
    long find(String text, int from);

    /** The result if there is no further secret. */
    long NOTHING = -1;

    /** Returns the begin (inclusive) and end (exclusive) of a secret in one number. */
    static long range(int from, int to) {
        return (long) from << 32 | to;
    }
}
