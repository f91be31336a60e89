package dev.graphema.condition;

import java.math.BigDecimal;
import java.time.Duration;

/**
 * The unit of time at the end of a name, so that {@code lock_wait_ms > 0.25s} can be evaluated for a field that
 * contains a number.
 */
enum Unit {
    NONE("", 0),
    NANOSECONDS("_ns", 1),
    MICROSECONDS("_us", 1_000),
    MILLISECONDS("_ms", 1_000_000),
    SECONDS("_s", 1_000_000_000);

    private final String ending;
    private final BigDecimal nanos;

    Unit(String ending, long nanos) {
        this.ending = ending;
        this.nanos = BigDecimal.valueOf(nanos);
    }

    /** Returns the unit at the end of the name; NONE if there is none, and for null. */
    static Unit of(String field) {
        for (Unit unit : values()) {
            if (unit != NONE && field != null && field.endsWith(unit.ending)) {
                return unit;
            }
        }
        return NONE;
    }

    /**
     * Returns the number of these units in the duration. It is exact, because each unit is a power of ten of
     * nanoseconds.
     */
    BigDecimal count(Duration duration) {
        return BigDecimal.valueOf(duration.getSeconds())
                .scaleByPowerOfTen(9)
                .add(BigDecimal.valueOf(duration.getNano()))
                .divide(nanos);
    }
}
