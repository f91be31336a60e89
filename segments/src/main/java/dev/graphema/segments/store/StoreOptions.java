package dev.graphema.segments.store;

import java.time.Duration;
import java.time.InstantSource;
import java.util.Objects;
import java.util.function.Consumer;

/**
 * How a store is written. Immutable.
 *
 * @param logBytes a log with more bytes is sealed
 * @param logAge a log with older events is sealed
 * @param replacedAge how long a file is left after another one has replaced it, for questions that began before
 * @param clock the time
 * @param error receives what the store could not do in the background, one sentence each
 */
public record StoreOptions(
        long logBytes, Duration logAge, Duration replacedAge, InstantSource clock, Consumer<String> error) {
    private static final long USUAL_LOG = 32L << 20;
    private static final Duration USUAL_LOG_AGE = Duration.ofMinutes(10);
    private static final Duration USUAL_REPLACED_AGE = Duration.ofMinutes(15);

    public StoreOptions {
        Objects.requireNonNull(logAge, "logAge");
        Objects.requireNonNull(replacedAge, "replacedAge");
        Objects.requireNonNull(clock, "clock");
        Objects.requireNonNull(error, "error");
        if (logBytes < 1 || logBytes > USUAL_LOG) {
            throw new IllegalArgumentException(
                    "logBytes is " + logBytes + ": expected 1 to " + USUAL_LOG + ", since a log is read into memory");
        }
    }

    /** Returns the usual options. */
    public static StoreOptions usual(Consumer<String> error) {
        return new StoreOptions(USUAL_LOG, USUAL_LOG_AGE, USUAL_REPLACED_AGE, InstantSource.system(), error);
    }
}
