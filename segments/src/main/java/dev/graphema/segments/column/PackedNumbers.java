package dev.graphema.segments.column;

import java.util.Arrays;

/**
 * Numbers that were written by {@link Numbers}: all of them, or single ones, which costs little. The step of a number is its
 * difference from the least one, divided by the divisor. Immutable.
 */
public final class PackedNumbers {
    /** How many numbers are packed together. */
    public static final int BLOCK = Numbers.BLOCK;

    private static final int MOST_SMALL_BITS = 24;

    /** More different steps are not counted. */
    public static final int MOST_STEPS = 1 << 16;

    /** This number of numbers fills whole bytes, with any number of bits of each; half of them are in a word, up to these bits. */
    private static final int AT_ONCE = 8;

    private static final int MOST_BITS_AT_ONCE = 16;

    private final ByteReader bytes;
    private final int count;
    private final long divisor;
    private final long base;

    /** The bytes before the differences of a block. */
    private final int header;

    /** Where each block begins. */
    private final int[] blocks;

    private PackedNumbers(ByteReader bytes, int count, long divisor, long base, int header, int[] blocks) {
        this.bytes = bytes;
        this.count = count;
        this.divisor = divisor;
        this.base = base;
        this.header = header;
        this.blocks = blocks;
    }

    /** Finds the blocks of numbers, and moves behind them. */
    public static PackedNumbers read(ByteReader from, int count) {
        long divisor = from.getLong();
        long base = from.getLong();
        int width = from.getByte();
        if (width > Long.BYTES) {
            throw new IndexOutOfBoundsException(width);
        }
        int[] blocks = new int[(count + BLOCK - 1) / BLOCK];
        for (int i = 0; i < blocks.length; i++) {
            blocks[i] = from.at();
            int bits = from.getByte();
            if (bits > Long.SIZE) {
                throw new IndexOutOfBoundsException(bits);
            }
            from.skip(width + (Math.min(BLOCK, count - i * BLOCK) * bits + Byte.SIZE - 1) / Byte.SIZE);
        }
        return new PackedNumbers(from, count, divisor, base, 1 + width, blocks);
    }

    /** Returns the number of numbers. */
    public int count() {
        return count;
    }

    /** Returns a number. */
    public long get(int index) {
        return ofStep(step(index));
    }

    /** Returns the number with a step. */
    public long ofStep(long step) {
        return base + step * divisor;
    }

    /** Returns the step of a number. */
    public long step(int index) {
        if (index < 0 || index >= count) {
            throw new IndexOutOfBoundsException(index);
        }
        int block = blocks[index / BLOCK];
        int bits = bits(block);
        int bit = index % BLOCK * bits;
        int place = block + header + (bit >>> 3);
        int shift = bit & 7;
        long value = bytes.wordAt(place) >>> shift;
        if (shift + bits > Long.SIZE) {
            value |= bytes.wordAt(place + 1) >>> Long.SIZE - Byte.SIZE << Long.SIZE - shift;
        }
        return leastStep(block) + (value & mask(bits));
    }

    /** Returns a number that is above all steps. */
    public long stepLimit() {
        long limit = 0;
        for (int block : blocks) {
            long least = leastStep(block);
            long above = least + mask(bits(block)) + 1;
            if (least < 0 || above <= least) {
                return Long.MAX_VALUE; // numbers that need all 64 bits
            }
            limit = Math.max(limit, above);
        }
        return limit;
    }

    /**
     * Counts how often each step occurs.
     *
     * @param limit the {@link #stepLimit}, up to {@value #MOST_STEPS}
     */
    public int[] countSteps(int limit) {
        int[] counts = new int[limit];
        int[] steps = new int[BLOCK];
        for (int begin = 0; begin < count; begin += BLOCK) {
            int at = blocks[begin / BLOCK];
            int length = Math.min(count - begin, BLOCK);
            if (bits(at) == 0) {
                counts[(int) leastStep(at)] += length;
                continue;
            }
            steps(begin, steps);
            for (int i = 0; i < length; i++) {
                counts[steps[i]]++;
            }
        }
        return counts;
    }

    /**
     * Reads the steps of {@value Numbers#BLOCK} numbers, or of the last ones.
     *
     * @param begin the index of the first one, a multiple of {@value Numbers#BLOCK}
     * @param to receives the steps; the {@link #stepLimit} must be up to {@value #MOST_STEPS}
     */
    public void steps(int begin, int[] to) {
        int at = blocks[begin / BLOCK];
        unpackSmall(at + header, to, 0, Math.min(count - begin, BLOCK), (int) leastStep(at), bits(at));
    }

    private int bits(int block) {
        return bytes.byteAt(block);
    }

    private long least(int block) {
        return ofStep(leastStep(block));
    }

    private long leastStep(int block) {
        return bytes.wordAt(block + 1) & mask((header - 1) * Byte.SIZE);
    }

    private static long mask(int bits) {
        return bits == 0 ? 0 : -1L >>> Long.SIZE - bits;
    }

    /** Returns all numbers. */
    public long[] all() {
        long[] values = new long[count];
        for (int begin = 0; begin < count; begin += BLOCK) {
            int at = blocks[begin / BLOCK];
            unpack(at + header, values, begin, Math.min(count - begin, BLOCK), least(at), bits(at));
        }
        return values;
    }

    /**
     * Returns all numbers, which are small.
     *
     * @param limit all are from 0 to below this one
     * @throws IndexOutOfBoundsException if one is not
     */
    public int[] allSmall(int limit) {
        int[] values = new int[count];
        long[] block = new long[BLOCK];
        for (int begin = 0; begin < count; begin += BLOCK) {
            int at = blocks[begin / BLOCK];
            int length = Math.min(count - begin, BLOCK);
            long least = least(at);
            int bits = bits(at);
            if (divisor == 1 && bits <= MOST_SMALL_BITS && least >= 0 && least < limit) {
                unpackSmall(at + header, values, begin, length, (int) least, bits);
                continue;
            }
            unpack(at + header, block, 0, length, least, bits);
            for (int i = 0; i < length; i++) {
                values[begin + i] = block[i] < 0 || block[i] >= limit ? -1 : (int) block[i];
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

    /** As {@link #unpack}, for numbers without a divisor. Through an array of long, percentiles by a name take 1.2 times as much CPU time. */
    private void unpackSmall(int at, int[] values, int begin, int length, int least, int bits) {
        if (bits == 0) {
            Arrays.fill(values, begin, begin + length, least);
            return;
        }
        int mask = (1 << bits) - 1;
        int i = 0;
        if (bits <= MOST_BITS_AT_ONCE) {
            for (int place = at; i + AT_ONCE <= length; i += AT_ONCE, place += bits) {
                int half = place + (AT_ONCE / 2 * bits >>> 3);
                four(bytes.wordAt(place), bits, mask, least, values, begin + i);
                four(
                        bytes.wordAt(half) >>> (AT_ONCE / 2 * bits & 7),
                        bits,
                        mask,
                        least,
                        values,
                        begin + i + AT_ONCE / 2);
            }
        }
        int bit = i * bits;
        for (; i < length; i++, bit += bits) {
            values[begin + i] = least + ((int) (bytes.wordAt(at + (bit >>> 3)) >>> (bit & 7)) & mask);
        }
    }

    private static void four(long word, int bits, int mask, int least, int[] values, int at) {
        values[at] = least + ((int) word & mask);
        values[at + 1] = least + ((int) (word >>> bits) & mask);
        values[at + 2] = least + ((int) (word >>> 2 * bits) & mask);
        values[at + 3] = least + ((int) (word >>> 3 * bits) & mask);
    }

    /** Unpacks the numbers of a block. */
    private void unpack(int at, long[] values, int begin, int length, long least, int bits) {
        if (bits == 0) {
            Arrays.fill(values, begin, begin + length, least);
            return;
        }
        long mask = mask(bits);
        int i = 0;
        if (bits <= MOST_BITS_AT_ONCE) {
            for (int place = at; i + AT_ONCE <= length; i += AT_ONCE, place += bits) {
                int half = place + (AT_ONCE / 2 * bits >>> 3);
                four(bytes.wordAt(place), bits, mask, least, values, begin + i);
                four(
                        bytes.wordAt(half) >>> (AT_ONCE / 2 * bits & 7),
                        bits,
                        mask,
                        least,
                        values,
                        begin + i + AT_ONCE / 2);
            }
        }
        boolean isLong = bits > Long.SIZE - Byte.SIZE + 1;
        for (int bit = i * bits; i < length; i++, bit += bits) {
            int place = at + (bit >>> 3);
            int shift = bit & 7;
            long value = bytes.wordAt(place) >>> shift;
            if (isLong && shift + bits > Long.SIZE) {
                value |= bytes.wordAt(place + 1) >>> Long.SIZE - Byte.SIZE << Long.SIZE - shift;
            }
            values[begin + i] = least + (value & mask) * divisor;
        }
    }

    private void four(long word, int bits, long mask, long least, long[] values, int at) {
        values[at] = least + (word & mask) * divisor;
        values[at + 1] = least + (word >>> bits & mask) * divisor;
        values[at + 2] = least + (word >>> 2 * bits & mask) * divisor;
        values[at + 3] = least + (word >>> 3 * bits & mask) * divisor;
    }
}
