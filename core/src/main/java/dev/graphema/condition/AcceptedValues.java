package dev.graphema.condition;

import dev.graphema.event.Level;
import dev.graphema.event.ValuePredicate;
import dev.graphema.text.Decimals;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;
import java.time.Duration;
import java.util.function.Predicate;

/** Tests values by an {@link Accepted}. Whole numbers and times are compared without creating objects. */
final class AcceptedValues extends ValuePredicate {
    private final Accepted accepted;
    private final Predicate<String> texts;

    /** Null if no number has such a form. */
    private final String numeral;

    private final Longs integers;
    private final Longs times;

    AcceptedValues(Accepted accepted) {
        this.accepted = accepted;
        this.texts = accepted.texts().test();
        this.numeral = isNumeral(accepted.numeral()) ? accepted.numeral() : null;
        this.integers = Longs.of(accepted.numbers());
        this.times = Longs.ofTimes(accepted.times());
    }

    private static boolean isNumeral(String text) {
        char first = text == null || text.isEmpty() ? ' ' : text.charAt(0);
        return first == '-' || first >= '0' && first <= '9';
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

    /** The longs from the least to the most; none if the least is greater. */
    private record Longs(long least, long most) {
        private static final Longs NONE = new Longs(1, 0);
        private static final BigInteger LEAST = BigInteger.valueOf(Long.MIN_VALUE);
        private static final BigInteger MOST = BigInteger.valueOf(Long.MAX_VALUE);

        static Longs of(Range<BigDecimal> range) {
            if (range == null) {
                return NONE;
            }
            BigInteger least = range.low() == null ? LEAST : least(range.low(), range.includesLow());
            BigInteger most = range.high() == null ? MOST : most(range.high(), range.includesHigh());
            boolean isOutside = least.compareTo(MOST) > 0 || most.compareTo(LEAST) < 0;
            return isOutside
                    ? NONE
                    : new Longs(
                            least.max(LEAST).longValueExact(), most.min(MOST).longValueExact());
        }

        static Longs ofTimes(Range<Long> range) {
            return range == null
                    ? NONE
                    : of(new Range<>(
                            decimal(range.low()), range.includesLow(), decimal(range.high()), range.includesHigh()));
        }

        private static BigDecimal decimal(Long value) {
            return value == null ? null : BigDecimal.valueOf(value);
        }

        private static BigInteger least(BigDecimal low, boolean includes) {
            BigInteger whole = low.setScale(0, RoundingMode.CEILING).toBigIntegerExact();
            return !includes && new BigDecimal(whole).compareTo(low) == 0 ? whole.add(BigInteger.ONE) : whole;
        }

        private static BigInteger most(BigDecimal high, boolean includes) {
            BigInteger whole = high.setScale(0, RoundingMode.FLOOR).toBigIntegerExact();
            return !includes && new BigDecimal(whole).compareTo(high) == 0 ? whole.subtract(BigInteger.ONE) : whole;
        }

        boolean contains(long value) {
            return value >= least && value <= most;
        }
    }
}
