package dev.graphema.condition;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.math.RoundingMode;

/**
 * The whole numbers from the least to the most; none if the least is greater. Immutable.
 *
 * @param least the least of them
 * @param most the most of them
 */
public record WholeNumbers(long least, long most) {
    private static final WholeNumbers NONE = new WholeNumbers(1, 0);
    private static final BigInteger LEAST = BigInteger.valueOf(Long.MIN_VALUE);
    private static final BigInteger MOST = BigInteger.valueOf(Long.MAX_VALUE);

    /** Returns those that are longs and in a range; none for null. */
    public static WholeNumbers in(Range<BigDecimal> range) {
        if (range == null) {
            return NONE;
        }
        BigInteger least = range.low() == null ? LEAST : least(range.low(), range.includesLow());
        BigInteger most = range.high() == null ? MOST : most(range.high(), range.includesHigh());
        boolean isOutside = least.compareTo(MOST) > 0 || most.compareTo(LEAST) < 0;
        return isOutside
                ? NONE
                : new WholeNumbers(
                        least.max(LEAST).longValueExact(), most.min(MOST).longValueExact());
    }

    static WholeNumbers inLongs(Range<Long> range) {
        return range == null
                ? NONE
                : in(new Range<>(
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

    /** Returns whether a number is one of them. */
    public boolean contains(long value) {
        return value >= least && value <= most;
    }
}
