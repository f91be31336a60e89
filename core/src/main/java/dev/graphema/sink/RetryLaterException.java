package dev.graphema.sink;

import java.io.IOException;
import java.time.Duration;

/** A receiver cannot take anything now, and says for how long. */
public final class RetryLaterException extends IOException {
    private static final long serialVersionUID = 1;

    private final transient Duration pause;

    /** @param pause how long the receiver wants to be left alone */
    public RetryLaterException(String message, Duration pause) {
        super(message);
        this.pause = pause;
    }

    /** How long the receiver wants to be left alone; null after being serialized. */
    public Duration pause() {
        return pause;
    }
}
