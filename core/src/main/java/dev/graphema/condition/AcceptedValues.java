package dev.graphema.condition;

import dev.graphema.event.Level;
import dev.graphema.event.ValuePredicate;
import dev.graphema.text.Decimals;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.function.Predicate;

/** Tests values by an {@link Accepted}. Whole numbers and times are compared without creating objects. */
final class AcceptedValues extends ValuePredicate {
    private final Accepted accepted;
    private final Predicate<String> texts;

    /** Null if no number has such a form. */
    private final String numeral;

    private final WholeNumbers integers;
    private final WholeNumbers times;

    AcceptedValues(Accepted accepted) {
        this.accepted = accepted;
        this.texts = accepted.texts().test();
        this.numeral = accepted.acceptsNumeral() ? accepted.numeral() : null;
        this.integers = WholeNumbers.in(accepted.numbers());
        this.times = WholeNumbers.inLongs(accepted.times());
    }

    @Override
    public boolean text(String value) {
        return texts.test(value);
    }

    @Override
    public boolean integer(long value) {
        return integers.contains(value) || numeral != null && numeral.equals(Long.toString(value));
    }

    @Override
    public boolean real(double value) {
        return Double.isFinite(value) && decimal(BigDecimal.valueOf(value));
    }

    @Override
    public boolean decimal(BigDecimal value) {
        return accepted.numbers() != null && accepted.numbers().contains(value)
                || numeral != null && numeral.equals(Decimals.text(value));
    }

    @Override
    public boolean bool(boolean value) {
        return accepted.bool() != null && accepted.bool() == value;
    }

    @Override
    public boolean time(long epochNanos) {
        return times.contains(epochNanos);
    }

    @Override
    public boolean duration(Duration value) {
        return accepted.durations() != null && accepted.durations().contains(value);
    }

    @Override
    public boolean level(Level value) {
        return accepted.levels() != null && accepted.levels().contains(value);
    }

    @Override
    public boolean nothing() {
        return accepted.acceptsNull();
    }
}
