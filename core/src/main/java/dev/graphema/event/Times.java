package dev.graphema.event;

import java.time.Instant;

/** Points in time as one {@code long}: nanoseconds since 1970-01-01T00:00:00Z, from the year 1677 to 2262. */
public final class Times {
    private static final long NANOS = 1_000_000_000L;

    private Times() {}

    /** The nearest representable value, where the instant lies outside those years. */
    public static long epochNanos(Instant instant) {
        long seconds = instant.getEpochSecond();
        if (seconds >= Long.MAX_VALUE / NANOS) {
            return Long.MAX_VALUE;
        }
        if (seconds <= Long.MIN_VALUE / NANOS) {
            return Long.MIN_VALUE;
        }
        return seconds * NANOS + instant.getNano();
    }

    public static Instant instant(long epochNanos) {
        return Instant.ofEpochSecond(Math.floorDiv(epochNanos, NANOS), Math.floorMod(epochNanos, NANOS));
    }

    /** The system's clock, as precise as the platform tells it. */
    public static long now() {
        return epochNanos(Instant.now());
    }
}
