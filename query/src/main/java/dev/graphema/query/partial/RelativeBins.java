package dev.graphema.query.partial;

import dev.graphema.query.answer.Measure;
import java.io.IOException;

/**
 * Counts of numbers in bins whose bounds grow by a constant factor, so that a number is known up to a relative error of
 * {@link Measure#ERROR}. Bins of two merge without a further error (C. Masson, J. E. Rim, H. K. Lee: DDSketch, PVLDB 12,
 * 2019). For one thread.
 */
final class RelativeBins {
    private static final double FACTOR = (1 + Measure.ERROR) / (1 - Measure.ERROR);
    private static final double LOG_FACTOR = Math.log(FACTOR);

    /** Doubles are between 1e-324 and 1e309. */
    private static final int MOST_BINS = 2 * (int) (Math.log(10) * 635 / LOG_FACTOR);

    private final NumberCounts positive = new NumberCounts(MOST_BINS);
    private final NumberCounts negative = new NumberCounts(MOST_BINS);
    private long zeros;

    /** Receives a number and its count. */
    interface Taker {
        void take(double number, long count);
    }

    /** Adds a finite number. */
    void add(double number, long count) {
        if (number == 0) {
            zeros += count;
        } else {
            (number > 0 ? positive : negative).add((long) Math.ceil(Math.log(Math.abs(number)) / LOG_FACTOR), count);
        }
    }

    void add(RelativeBins other) {
        other.positive.inOrder(positive::add);
        other.negative.inOrder(negative::add);
        zeros += other.zeros;
    }

    void write(StateWriter to) throws IOException {
        positive.write(to);
        negative.write(to);
        to.number(zeros);
    }

    void add(StateReader from) throws IOException {
        from.pairs(positive::add);
        from.pairs(negative::add);
        zeros += from.number();
    }

    /** Passes on a number of each bin, with its count. */
    void each(Taker taker) {
        negative.inOrder((bin, count) -> taker.take(-number(bin), count));
        if (zeros > 0) {
            taker.take(0, zeros);
        }
        positive.inOrder((bin, count) -> taker.take(number(bin), count));
    }

    /** Returns the number with the least relative error to all numbers of a bin. */
    private static double number(long bin) {
        return 2 * Math.exp(bin * LOG_FACTOR) / (FACTOR + 1);
    }
}
