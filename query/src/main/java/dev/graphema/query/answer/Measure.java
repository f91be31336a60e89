package dev.graphema.query.answer;

/**
 * Statistics of the values of a field: their number, the number of different ones and, for numbers or durations, sum,
 * mean and percentiles. Values of sampled events count with their weights. Immutable.
 *
 * @param count the number of values
 * @param distinct the number of different values; {@link #MOST_DISTINCT} for that number or more
 * @param numbers how many of them are numbers; the following components concern only these, and are undefined without
 *     any
 * @param sum their sum; for durations in nanoseconds, as are the others
 * @param least the minimum
 * @param median the median; this and the next two are exact for whole numbers and durations with at most {@link
 *     #MOST_DISTINCT} different values, and otherwise accurate to about one in a thousand of the ranks (t-digest, T.
 *     Dunning)
 * @param p95 the 95th percentile
 * @param p99 the 99th percentile
 * @param most the maximum
 * @param isDuration whether the numbers are durations
 */
public record Measure(
        long count,
        long distinct,
        long numbers,
        double sum,
        double least,
        double median,
        double p95,
        double p99,
        double most,
        boolean isDuration) {
    /** The most different values that are distinguished. */
    public static final int MOST_DISTINCT = 100_000;

    /** Returns the mean. */
    public double mean() {
        return sum / numbers;
    }
}
