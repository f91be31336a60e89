package dev.graphema.batch;

import java.io.IOException;
import java.time.Duration;

/** Thrown if a receiver temporarily accepts no events, and requests a pause. */
public final class RetryLaterException extends IOException {
    private static final long serialVersionUID = 1;

    private final transient Duration pause;

    /** @param pause the requested pause */
    public RetryLaterException(String message, Duration pause) {
        super(message);
        this.pause = pause;
    }

    /** Returns the requested pause; null after deserialization. */
    public Duration pause() {
        return pause;
    }
}
