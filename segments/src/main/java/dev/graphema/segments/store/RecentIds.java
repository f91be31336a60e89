package dev.graphema.segments.store;

/**
 * The ids of the events that were stored recently: run and number within the run. Neighbouring numbers share an entry, so that the
 * events of a program take some bits each. At least the last {@value #MOST_ENTRIES} ids are known, usually millions. For one
 * thread.
 */
final class RecentIds {
    static final int MOST_ENTRIES = 1 << 18;

    private static final int FEWEST = 16;
    private static final int NUMBERS_PER_ENTRY = 6; // as a power of two: the bits of a long

    private Generation current = new Generation();
    private Generation before = new Generation();

    /** The ids of a period: a hash table from run and upper bits of the number to one bit for each number. */
    private static final class Generation {
        private long[] runs = new long[FEWEST];
        private long[] numbers = new long[FEWEST];
        private long[] bits = new long[FEWEST];
        private int entries;

        /** Returns the place of an entry, or of a free one, whose bits are 0. */
        private int place(long run, long number) {
            int place = (int) ((run * 31 + number) * 0x9E3779B97F4A7C15L >>> 40) & bits.length - 1;
            while (bits[place] != 0 && (runs[place] != run || numbers[place] != number)) {
                place = place + 1 & bits.length - 1;
            }
            return place;
        }

        boolean contains(long run, long number) {
            return (bits[place(run, number >>> NUMBERS_PER_ENTRY)] & 1L << number) != 0;
        }

        void add(long run, long number) {
            int place = place(run, number >>> NUMBERS_PER_ENTRY);
            if (bits[place] == 0) {
                if (2 * ++entries > bits.length) {
                    grow();
                    place = place(run, number >>> NUMBERS_PER_ENTRY);
                }
                runs[place] = run;
                numbers[place] = number >>> NUMBERS_PER_ENTRY;
            }
            bits[place] |= 1L << number;
        }

        private void grow() {
            long[] oldRuns = runs;
            long[] oldNumbers = numbers;
            long[] oldBits = bits;
            runs = new long[2 * oldBits.length];
            numbers = new long[runs.length];
            bits = new long[runs.length];
            for (int i = 0; i < oldBits.length; i++) {
                if (oldBits[i] != 0) {
                    int place = place(oldRuns[i], oldNumbers[i]);
                    runs[place] = oldRuns[i];
                    numbers[place] = oldNumbers[i];
                    bits[place] = oldBits[i];
                }
            }
        }
    }

    boolean contains(long run, long number) {
        return current.contains(run, number) || before.contains(run, number);
    }

    void add(long run, long number) {
        if (current.entries == MOST_ENTRIES) {
            before = current;
            current = new Generation();
        }
        current.add(run, number);
    }

    /** Adds all ids of another one. */
    void addAll(RecentIds other) {
        addAll(other.before);
        addAll(other.current);
    }

    private void addAll(Generation from) {
        for (int i = 0; i < from.bits.length; i++) {
            for (long left = from.bits[i]; left != 0; left &= left - 1) {
                add(from.runs[i], from.numbers[i] << NUMBERS_PER_ENTRY | Long.numberOfTrailingZeros(left));
            }
        }
    }

    /** Returns whether more ids than are known would replace known ones. */
    boolean isFull() {
        return before.entries > 0;
    }
}
