package dev.graphema.query.answer;

import java.math.BigDecimal;
import java.math.MathContext;
import java.util.List;

/**
 * Statistics of the values of a field: their number, the number of different ones and, for numbers or durations, sum,
 * mean and percentiles. Values of sampled events count with their weights. Numbers keep all their digits. Immutable.
 *
 * @param count the number of values
 * @param distinct the number of different values; {@link #MOST_DISTINCT} for that number or more
 * @param numbers how many of them are numbers; the following components concern only these, and are zero or empty without
 *     any
 * @param sum their sum; for durations in nanoseconds, as are the others
 * @param least the minimum
 * @param most the maximum
 * @param percentiles the requested percentiles, in the requested order
 * @param error the greatest relative error of percentiles: 0 with at most {@link #MOST_DISTINCT} different numbers of a
 *     kind, else {@link #ERROR}; the sum then has the precision of a double
 * @param isDuration whether the numbers are durations
 */
public record Measure(
        long count,
        long distinct,
        long numbers,
        BigDecimal sum,
        BigDecimal least,
        BigDecimal most,
        List<Percentile> percentiles,
        double error,
        boolean isDuration) {
    /** The most different values that are distinguished. */
    public static final int MOST_DISTINCT = 100_000;

    /** The relative error of percentiles of more different values. */
    public static final double ERROR = 0.001;

    public Measure {
        percentiles = List.copyOf(percentiles);
    }

    /**
     * A percentile: the smallest number to which this share of all numbers is less or equal.
     *
     * @param of the share in percent, above 0 and up to 100
     * @param value the number
     */
    public record Percentile(BigDecimal of, BigDecimal value) {
        /** Returns the name of a percentile: {@code median}, {@code p95}, {@code p99.9}. */
        public static String name(BigDecimal of) {
            return of.compareTo(BigDecimal.valueOf(50)) == 0 ? "median" : "p" + of.toPlainString();
        }

        /** Returns the name, as above. */
        public String name() {
            return name(of);
        }
    }

    /** Returns the mean, with 16 digits; 0 without numbers. */
    public BigDecimal mean() {
        return numbers == 0 ? BigDecimal.ZERO : sum.divide(BigDecimal.valueOf(numbers), MathContext.DECIMAL64);
    }

    /** Returns a requested percentile; null if it was not requested, or there are no numbers. */
    public BigDecimal percentile(double of) {
        return percentiles.stream()
                .filter(each -> each.of().doubleValue() == of)
                .map(Percentile::value)
                .findFirst()
                .orElse(null);
    }
}
