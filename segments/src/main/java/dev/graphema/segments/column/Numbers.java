package dev.graphema.segments.column;

import java.util.Arrays;

/**
 * Whole numbers in blocks of {@value #BLOCK}: the least number of the block, and the differences from it in as many bits as the
 * largest one needs, divided by what all numbers of the column have as a common divisor of their differences (frame of
 * reference; J. Goldstein, R. Ramakrishnan and U. Shaft, 1998). The least number of a block is written as its difference from the
 * least one of all, in as many bytes as the largest of these needs.
 */
public final class Numbers {
    static final int BLOCK = 128;

    private Numbers() {}

    /** Writes the numbers; their count is not written. */
    public static void write(long[] values, int count, ByteWriter to) {
        long divisor = commonDivisor(values, count);
        long[] leasts = leasts(values, count);
        long base = Long.MAX_VALUE;
        long highest = Long.MIN_VALUE;
        for (long least : leasts) {
            base = Math.min(base, least);
            highest = Math.max(highest, least);
        }
        int width = bytes(leasts.length == 0 ? 0 : Long.divideUnsigned(highest - base, divisor));
        to.putLong(divisor).putLong(base).putByte(width);
        for (int from = 0; from < count; from += BLOCK) {
            int end = Math.min(count, from + BLOCK);
            long least = leasts[from / BLOCK];
            long most = Long.MIN_VALUE;
            for (int i = from; i < end; i++) {
                most = Math.max(most, values[i]);
            }
            int bits = Long.SIZE - Long.numberOfLeadingZeros(Long.divideUnsigned(most - least, divisor));
            to.putByte(bits);
            long above = Long.divideUnsigned(least - base, divisor);
            for (int i = 0; i < width; i++, above >>>= Byte.SIZE) {
                to.putByte((int) above);
            }
            pack(values, from, end, least, divisor, bits, to);
        }
    }

    /** Returns the least number of each block. */
    private static long[] leasts(long[] values, int count) {
        long[] leasts = new long[(count + BLOCK - 1) / BLOCK];
        Arrays.fill(leasts, Long.MAX_VALUE);
        for (int i = 0; i < count; i++) {
            leasts[i / BLOCK] = Math.min(leasts[i / BLOCK], values[i]);
        }
        return leasts;
    }

    /** Returns the bytes that a number without a sign needs. */
    private static int bytes(long number) {
        return (Long.SIZE - Long.numberOfLeadingZeros(number) + Byte.SIZE - 1) / Byte.SIZE;
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
