package dev.graphema.condition;

import dev.graphema.event.Level;
import dev.graphema.event.ValueTest;
import java.math.BigDecimal;
import java.time.Duration;

/** Whether one value lies between two others: of a list, the same item has to satisfy both comparisons. */
final class BetweenTest extends ValueTest {
    private final ValueTest low;
    private final ValueTest high;

    BetweenTest(ValueTest low, ValueTest high) {
        this.low = low;
        this.high = high;
    }

    @Override
    public boolean text(String value) {
        return low.text(value) && high.text(value);
    }

    @Override
    public boolean integer(long value) {
        return low.integer(value) && high.integer(value);
    }

    @Override
    public boolean real(double value) {
        return low.real(value) && high.real(value);
    }

    @Override
    public boolean decimal(BigDecimal value) {
        return low.decimal(value) && high.decimal(value);
    }

    @Override
    public boolean bool(boolean value) {
        return low.bool(value) && high.bool(value);
    }

    @Override
    public boolean time(long epochNanos) {
        return low.time(epochNanos) && high.time(epochNanos);
    }

    @Override
    public boolean duration(Duration value) {
        return low.duration(value) && high.duration(value);
    }

    @Override
    public boolean level(Level value) {
        return low.level(value) && high.level(value);
    }

    @Override
    public boolean nothing() {
        return low.nothing() && high.nothing();
    }
}
