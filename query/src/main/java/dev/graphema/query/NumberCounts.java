package dev.graphema.query;

import java.util.Arrays;

/**
 * How often each of some whole numbers came: a table in two arrays, in which a number stands at the place that its bits say, or at the next free one.
 * For one thread.
 */
final class NumberCounts {
    private static final int SMALLEST = 16;

    /** Odd, with no order in its bits, so that all of a product's highest bits come from all of the factor. */
    private static final long SPREAD = 0x9E3779B97F4A7C15L;

    private final int most;
    private long[] numbers = new long[SMALLEST];
    private long[] counts = new long[SMALLEST];
    private int size;

    /** @param most how many different numbers there may be */
    NumberCounts(int most) {
        this.most = most;
    }

    /** Takes what does something with a number and its count. */
    interface Taker {
        void take(long number, long count);
    }

    /** How many different numbers there are. */
    int size() {
        return size;
    }

    /** Whether it was counted: not when it is a new number and there are too many. @param count at least 1 */
    boolean add(long number, long count) {
        int place = place(number);
        if (counts[place] == 0) {
            if (size == most) {
                return false;
            }
            if (++size * 2 > numbers.length) {
                grow();
                place = place(number);
            }
            numbers[place] = number;
        }
        counts[place] += count;
        return true;
    }

    /** Hands over each number with its count, the least first. */
    void inOrder(Taker taker) {
        long[] sorted = new long[size];
        int at = 0;
        for (int i = 0; i < numbers.length; i++) {
            if (counts[i] != 0) {
                sorted[at++] = numbers[i];
            }
        }
        Arrays.sort(sorted);
        for (long number : sorted) {
            taker.take(number, counts[place(number)]);
        }
    }

    private int place(long number) {
        int mask = numbers.length - 1;
        int place = (int) (number * SPREAD >>> Integer.SIZE) & mask;
        while (counts[place] != 0 && numbers[place] != number) {
            place = place + 1 & mask;
        }
        return place;
    }

    private void grow() {
        long[] oldNumbers = numbers;
        long[] oldCounts = counts;
        numbers = new long[oldNumbers.length * 2];
        counts = new long[numbers.length];
        for (int i = 0; i < oldNumbers.length; i++) {
            if (oldCounts[i] != 0) {
                int place = place(oldNumbers[i]);
                numbers[place] = oldNumbers[i];
                counts[place] = oldCounts[i];
            }
        }
    }
}
