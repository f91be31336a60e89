package dev.graphema.query;

import dev.graphema.text.Times;
import java.time.Instant;

/**
 * A time window.
 *
 * @param from its first nanosecond since 1970
 * @param to its last nanosecond since 1970
 */
public record Window(long from, long to) {
    /** All times. */
    public static final Window ALWAYS = new Window(Long.MIN_VALUE, Long.MAX_VALUE);

    /** Returns the window from an instant (inclusive) to another one (exclusive). */
    public static Window between(Instant from, Instant to) {
        return new Window(Times.epochNanos(from), Times.epochNanos(to) - 1);
    }

    /** Returns whether it contains all times. */
    public boolean isAlways() {
        return from == Long.MIN_VALUE && to == Long.MAX_VALUE;
    }

    public boolean contains(long epochNanos) {
        return epochNanos >= from && epochNanos <= to;
    }
}
