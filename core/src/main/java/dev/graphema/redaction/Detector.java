package dev.graphema.redaction;

/**
 * Finds one kind of secret in a text. Called by any thread, on the caller's path: linear in the text's length, and without
 * making objects when there is nothing to find.
 */
public interface Detector {
    /** The name by which settings call it, for example {@code payment-card}. */
    String name();

    /** How many characters a secret has at least: shorter texts, which most are, are not even looked at. */
    int shortest();

    /** What a text must contain at the least; every text by default. */
    default Trigger trigger() {
        return Trigger.ALWAYS;
    }

    /**
     * Looks for the next secret.
     *
     * @param from the first character that may belong to it
     * @return where it begins and ends, as {@link #range}, or {@link #NOTHING}
     */
    long find(String text, int from);

    /** The answer when there is no secret from there on. */
    long NOTHING = -1;

    /** A found secret: the index of its first character and the index behind its last, in one number. */
    static long range(int from, int to) {
        return (long) from << 32 | to;
    }
}
