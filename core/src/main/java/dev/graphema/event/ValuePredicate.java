package dev.graphema.event;

import java.math.BigDecimal;
import java.time.Duration;

/**
 * A question asked of one value, by its type. A type that the question does not concern answers no, which is what the
 * methods here do unless they are overridden. Tests are immutable and serve any thread.
 *
 * <p>A list answers yes when one of its items does; an implementation of {@link EventValues} checks the items.
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
}
