package dev.graphema.segments.column;

import java.util.Arrays;

/**
 * Whole numbers in blocks of {@value #BLOCK}: the least number of the block, and the differences from it in as many bits as the
 * largest one needs, divided by what all numbers of the column have as a common divisor of their differences (frame of
 * reference; J. Goldstein, R. Ramakrishnan and U. Shaft, 1998).
 */
public final class Numbers {
    static final int BLOCK = 128;

    private static final int MOST_SMALL_BITS = 24;

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

    /** Reads numbers. */
    public static long[] read(ByteReader from, int count) {
        long[] values = new long[count];
        long[] block = new long[BLOCK];
        long divisor = from.getLong();
        for (int begin = 0; begin < count; begin += BLOCK) {
            int length = Math.min(count - begin, BLOCK);
            long least = from.getLong();
            unpack(from, block, length, from.getByte());
            for (int i = 0; i < length; i++) {
                values[begin + i] = least + block[i] * divisor;
            }
        }
        return values;
    }

    /**
     * Reads numbers that are small.
     *
     * @param limit all are from 0 to below this one
     * @throws IndexOutOfBoundsException if one is not
     */
    public static int[] readSmall(ByteReader from, int count, int limit) {
        int[] values = new int[count];
        long[] block = new long[BLOCK];
        long divisor = from.getLong();
        for (int begin = 0; begin < count; begin += BLOCK) {
            int length = Math.min(count - begin, BLOCK);
            long least = from.getLong();
            int bits = from.getByte();
            boolean isUsual = divisor == 1 && bits <= MOST_SMALL_BITS && least >= 0 && least < limit;
            if (isUsual) {
                unpackSmall(from, values, begin, length, (int) least, bits);
            } else {
                unpack(from, block, length, bits);
                for (int i = 0; i < length; i++) {
                    long value = least + block[i] * divisor;
                    values[begin + i] = value < 0 || value >= limit ? -1 : (int) value;
                }
            }
        }
        int outside = 0;
        for (int value : values) {
            outside |= value | limit - 1 - value; // negative if it is below 0 or too large
        }
        if (outside < 0) {
            throw new IndexOutOfBoundsException("a number is not below " + limit);
        }
        return values;
    }

    /** As {@link #unpack}, with the least number added. */
    private static void unpackSmall(ByteReader from, int[] values, int begin, int length, int least, int bits) {
        int at = from.at();
        from.skip((length * bits + Byte.SIZE - 1) / Byte.SIZE);
        int mask = (1 << bits) - 1;
        if (bits == 0) {
            Arrays.fill(values, begin, begin + length, least);
            return;
        }
        int perWord = (Long.SIZE - Byte.SIZE + 1)
                / bits; // so many are always within a word of 64 bits, wherever the first one begins
        int bit = 0;
        int i = 0;
        for (; i + perWord <= length; i += perWord, bit += perWord * bits) {
            long word = from.wordAt(at + (bit >>> 3)) >>> (bit & 7);
            for (int j = begin + i; j < begin + i + perWord; j++) {
                values[j] = least + ((int) word & mask);
                word >>>= bits;
            }
        }
        for (; i < length; i++, bit += bits) {
            values[begin + i] = least + ((int) (from.wordAt(at + (bit >>> 3)) >>> (bit & 7)) & mask);
        }
    }

    /** Unpacks the differences of a block. */
    private static void unpack(ByteReader from, long[] block, int length, int bits) {
        if (bits > Long.SIZE) {
            throw new IndexOutOfBoundsException(bits);
        }
        int at = from.at();
        from.skip((int) (((long) length * bits + Byte.SIZE - 1) / Byte.SIZE));
        if (bits == 0) {
            Arrays.fill(block, 0, length, 0);
        } else if (Long.SIZE % bits == 0) {
            unpackWithinWords(from, at, block, length, bits);
        } else {
            unpackAcrossWords(from, at, block, length, bits);
        }
    }

    private static void unpackWithinWords(ByteReader from, int at, long[] block, int length, int bits) {
        long mask = -1L >>> Long.SIZE - bits;
        int perWord = Long.SIZE / bits;
        for (int begin = 0; begin < length; begin += perWord) {
            long word = from.wordAt(at + begin / perWord * Long.BYTES);
            int end = Math.min(length, begin + perWord);
            for (int i = begin; i < end; i++) {
                block[i] = word & mask;
                word >>>= bits;
            }
        }
    }

    private static void unpackAcrossWords(ByteReader from, int at, long[] block, int length, int bits) {
        long mask = (1L << bits) - 1;
        boolean isLong = bits > Long.SIZE - Byte.SIZE + 1;
        int bit = 0;
        for (int i = 0; i < length; i++, bit += bits) {
            int place = at + (bit >>> 3);
            int shift = bit & 7;
            long value = from.wordAt(place) >>> shift;
            if (isLong && shift + bits > Long.SIZE) {
                value |= from.wordAt(place + 1) >>> Long.SIZE - Byte.SIZE << Long.SIZE - shift;
            }
            block[i] = value & mask;
        }
    }
}
