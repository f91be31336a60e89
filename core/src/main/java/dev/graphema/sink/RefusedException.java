package dev.graphema.sink;

import java.io.IOException;

/** Thrown if a receiver will never accept all or some of the events. */
public final class RefusedException extends IOException {
    private static final long serialVersionUID = 1;

    private final long count;

    /** @param count the number of rejected events; the others were accepted */
    public RefusedException(String message, long count) {
        super(message);
        this.count = count;
    }

    /** Returns the number of rejected events; the others were accepted. */
    public long count() {
        return count;
    }
}
