package dev.graphema.query.partial;

import java.util.Arrays;

/** Finds steps with far more events than usual. */
final class Spikes {
    /** The least multiple of the usual count of a spike. */
    private static final double LEAST_RISE = 1.5;

    /** A spike is the highest of this number of steps before and after it. */
    private static final int NEAR = 2;

    private final long[] counts;
    private final double limit;

    /** @param counts the numbers of events of successive steps */
    Spikes(long[] counts) {
        this.counts = counts;
        this.limit = limit(counts);
    }

    boolean isSpike(int index) {
        return counts[index] > limit && isTop(index);
    }

    /** Returns the count above which a step is a spike. */
    private static double limit(long[] counts) {
        double usual = median(counts);
        long[] differences = new long[counts.length];
        for (int i = 0; i < counts.length; i++) {
            // A median of whole numbers may lie between two of them.
            differences[i] = Math.abs(2 * counts[i] - (long) (2 * usual));
        }
        double deviation = median(differences) / 2;
        // Random counts deviate by about the root of the usual count.
        return Math.max(usual + 5 * Math.max(deviation, Math.sqrt(Math.max(usual, 1))), usual * LEAST_RISE);
    }

    private boolean isTop(int index) {
        long count = counts[index];
        for (int i = Math.max(0, index - NEAR); i <= Math.min(counts.length - 1, index + NEAR); i++) {
            if (i < index ? counts[i] >= count : counts[i] > count) {
                return false;
            }
        }
        return true;
    }

    private static double median(long[] values) {
        long[] sorted = values.clone();
        Arrays.sort(sorted);
        int middle = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2.0;
    }
}
