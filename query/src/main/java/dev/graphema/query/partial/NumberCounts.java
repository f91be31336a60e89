package dev.graphema.query.partial;

import java.io.IOException;
import java.util.Arrays;

/** Counts of whole numbers, in a hash table with open addressing. For one thread. */
final class NumberCounts {
    private static final int SMALLEST = 16;

    /** An odd multiplier without a pattern in its bits, so that the highest bits of a product depend on all bits. */
    private static final long SPREAD = 0x9E3779B97F4A7C15L;

    private final int most;
    private long[] numbers = new long[SMALLEST];
    private long[] counts = new long[SMALLEST];
    private int size;

    /** @param most the most different numbers */
    NumberCounts(int most) {
        this.most = most;
    }

    /** Receives a number and its count. */
    interface Taker {
        void take(long number, long count);
    }

    /** Returns the number of different numbers. */
    int size() {
        return size;
    }

    /**
     * Adds to the count of a number.
     *
     * @param count 1 or more
     * @return false if it is a new number and there are too many
     */
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

    /** Passes on all numbers with their counts, in ascending order. */
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

    void write(StateWriter to) throws IOException {
        long[] all = new long[2 * size];
        int[] at = new int[1];
        inOrder((number, count) -> {
            all[at[0]++] = number;
            all[at[0]++] = count;
        });
        to.numbers(all);
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
