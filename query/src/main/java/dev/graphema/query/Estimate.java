package dev.graphema.query;

/**
 * How many events there were, judged by those that sampling has kept.
 *
 * @param kept how many events were counted
 * @param count how many they stand for: the sum of their weights
 * @param low at least so many there were, in 99 of 100 cases
 * @param high at most so many there were, in 99 of 100 cases
 */
public record Estimate(long kept, long count, long low, long high) {
    /** The normal distribution's quantile for 99 of 100 cases. */
    private static final double Z = 2.5758;

    /**
     * The estimate with its interval: all numbers that are not at odds with the count, as E. B. Wilson drew it for shares (1927). Unlike one
     * that is as far to either side, it is right for few events, too. Where traces were kept, how large they are is judged by those
     * alone, so Student's quantile stands for the normal one.
     *
     * @param variance that of the count
     * @param pieces how many events or traces were kept, each by a chance of its own; infinite when there is no trace among them
     */
    static Estimate of(long kept, long count, double variance, double pieces) {
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

    /** Student's quantile for that many degrees of freedom, by the expansion of Cornish and Fisher (1937). */
    private static double quantile(double freedom) {
        double cube = Z * Z * Z;
        return Z + (cube + Z) / (4 * freedom) + (5 * cube * Z * Z + 16 * cube + 3 * Z) / (96 * freedom * freedom);
    }

    /** Whether events were thinned, so that the count is not exact. */
    public boolean isEstimate() {
        return count != kept;
    }
}
