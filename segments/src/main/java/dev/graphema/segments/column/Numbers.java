package dev.graphema.segments.column;

/**
 * Whole numbers in blocks of {@value #BLOCK}: the least number of the block, and the differences from it in as many bits as the
 * largest one needs, divided by what all numbers of the column have as a common divisor of their differences (frame of
 * reference; J. Goldstein, R. Ramakrishnan and U. Shaft, 1998).
 */
public final class Numbers {
    static final int BLOCK = 128;

    private Numbers() {}

    /** Writes the numbers; their count is not written. */
    public static void write(long[] values, int count, ByteWriter to) {
        long divisor = commonDivisor(values, count);
        to.putLong(divisor);
        for (int from = 0; from < count; from += BLOCK) {
            int end = Math.min(count, from + BLOCK);
            long least = Long.MAX_VALUE;
            long most = Long.MIN_VALUE;
            for (int i = from; i < end; i++) {
                least = Math.min(least, values[i]);
                most = Math.max(most, values[i]);
            }
            int bits = Long.SIZE - Long.numberOfLeadingZeros(Long.divideUnsigned(most - least, divisor));
            to.putLong(least).putByte(bits);
            pack(values, from, end, least, divisor, bits, to);
        }
    }

    private static void pack(long[] values, int from, int end, long least, long divisor, int bits, ByteWriter to) {
        long word = 0;
        int used = 0;
        for (int i = from; i < end && bits > 0; i++) {
            long value = divisor == 1 ? values[i] - least : Long.divideUnsigned(values[i] - least, divisor);
            word |= value << used;
            used += bits;
            if (used >= Long.SIZE) {
                to.putLong(word);
                used -= Long.SIZE;
                word = used == 0 ? 0 : value >>> bits - used;
            }
        }
        for (; used > 0; used -= Byte.SIZE, word >>>= Byte.SIZE) {
            to.putByte((int) word);
        }
    }

    /** Returns the greatest common divisor of all differences; 1 if there are none. */
    private static long commonDivisor(long[] values, int count) {
        long divisor = 0;
        for (int i = 1; i < count && divisor != 1; i++) {
            long difference = values[i] - values[0];
            if (difference == Long.MIN_VALUE || (values[i] < values[0]) != (difference < 0)) {
                return 1; // the difference is too large for a signed number
            }
            divisor = greatest(divisor, Math.abs(difference));
        }
        return divisor == 0 ? 1 : divisor;
    }

    private static long greatest(long one, long other) {
        long a = one;
        long b = other;
        while (b != 0) {
            long rest = a % b;
            a = b;
            b = rest;
        }
        return a;
    }

    /** Reads all numbers. */
    public static long[] read(ByteReader from, int count) {
        return PackedNumbers.read(from, count).all();
    }
}
