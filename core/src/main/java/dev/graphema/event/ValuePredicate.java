package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;

/**
 * A test of one value, with a method for each type. The methods return false unless they are overridden. Immutable and
 * thread-safe.
 *
 * <p>A list passes if any of its items does; implementations of {@link EventValues} test the items.
 */
public abstract class ValuePredicate {
    public boolean text(String value) {
        return false;
    }

    public boolean integer(long value) {
        return false;
    }

    public boolean real(double value) {
        return false;
    }

    public boolean decimal(BigDecimal value) {
        return false;
    }

    public boolean bool(boolean value) {
        return false;
    }

    /** A point in time, in nanoseconds since 1970-01-01T00:00:00Z. */
    public boolean time(long epochNanos) {
        return false;
    }

    public boolean duration(Duration value) {
        return false;
    }

    public boolean level(Level value) {
        return false;
    }

    public boolean nothing() {
        return false;
    }

    public boolean group() {
        return false;
    }

    /** A list without items. */
    public boolean emptyList() {
        return false;
    }
}
