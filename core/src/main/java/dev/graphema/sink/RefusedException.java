package dev.graphema.sink;

import java.io.IOException;

/** A receiver will never take these events, or some of them, however often they are sent. */
public final class RefusedException extends IOException {
    private static final long serialVersionUID = 1;

    private final long count;

    /** @param count how many of the events it refused; it took the others */
    public RefusedException(String message, long count) {
        super(message);
        this.count = count;
    }

    /** How many of the events were refused; the others were taken. */
    public long count() {
        return count;
    }
}
