package dev.graphema.condition;

import dev.graphema.event.Level;
import dev.graphema.event.ValuePredicate;
import java.math.BigDecimal;
import java.time.Duration;

/** Accepts every value. */
final class AnyValue extends ValuePredicate {
    static final AnyValue TEST = new AnyValue();

    private AnyValue() {}

    @Override
    public boolean text(String value) {
        return true;
    }

    @Override
    public boolean integer(long value) {
        return true;
    }

    @Override
    public boolean real(double value) {
        return true;
    }

    @Override
    public boolean decimal(BigDecimal value) {
        return true;
    }

    @Override
    public boolean bool(boolean value) {
        return true;
    }

    @Override
    public boolean time(long epochNanos) {
        return true;
    }

    @Override
    public boolean duration(Duration value) {
        return true;
    }

    @Override
    public boolean level(Level value) {
        return true;
    }

    @Override
    public boolean nothing() {
        return true;
    }

    @Override
    public boolean group() {
        return true;
    }

    @Override
    public boolean emptyList() {
        return true;
    }
}
