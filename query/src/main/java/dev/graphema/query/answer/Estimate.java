package dev.graphema.query.answer;

/**
 * An estimate of the number of events before sampling.
 *
 * @param kept the number of counted events
 * @param count the sum of their weights
 * @param low the lower bound of the 99 % confidence interval
 * @param high the upper bound of the 99 % confidence interval
 */
public record Estimate(long kept, long count, long low, long high) {
    /** The quantile of the normal distribution for 99 %. */
    private static final double Z = 2.5758;

    /**
     * Returns the estimate with its confidence interval (E. B. Wilson, 1927): all numbers that are consistent with the
     * count. Unlike a symmetric interval, it is also correct for few events. If traces were kept, the variance of their
     * size is estimated from them, so the t-distribution replaces the normal one.
     *
     * @param variance the variance of the count
     * @param pieces the number of independently kept events or traces; infinite without traces
     */
    public static Estimate of(long kept, long count, double variance, double pieces) {
        if (kept == count) {
            return new Estimate(kept, count, count, count);
        }
        double perEvent = variance / count;
        double t = quantile(pieces);
        double middle = count + t * t * perEvent / 2;
        double width = t * Math.sqrt(variance + t * t * perEvent * perEvent / 4);
        return new Estimate(
                kept, count, Math.max(kept, (long) Math.floor(middle - width)), (long) Math.ceil(middle + width));
    }

    /** Returns a quantile of the t-distribution, by the expansion of Cornish and Fisher (1937). */
    private static double quantile(double freedom) {
        double cube = Z * Z * Z;
        return Z + (cube + Z) / (4 * freedom) + (5 * cube * Z * Z + 16 * cube + 3 * Z) / (96 * freedom * freedom);
    }

    /** Returns whether events were sampled, so that the count is an estimate. */
    public boolean isEstimate() {
        return count != kept;
    }
}
