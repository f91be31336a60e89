package dev.graphema.condition;

import java.math.BigDecimal;
import java.time.Duration;

/**
 * The unit of time that a number's name tells, so that {@code lock_wait_ms > 0.25s} can be asked of a field that holds a
 * bare number.
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

    /** The unit that the field's name ends with; NONE for a name without one and for null. */
    static Unit of(String field) {
        for (Unit unit : values()) {
            if (unit != NONE && field != null && field.endsWith(unit.ending)) {
                return unit;
            }
        }
        return NONE;
    }

    /** How many of this unit the duration has: exact, because each unit is a power of ten of nanoseconds. */
    BigDecimal count(Duration duration) {
        return BigDecimal.valueOf(duration.getSeconds())
                .scaleByPowerOfTen(9)
                .add(BigDecimal.valueOf(duration.getNano()))
                .divide(nanos);
    }
}
