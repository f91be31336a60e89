package dev.graphema.segments.column;

import java.util.BitSet;

/**
 * Excludes most texts that no text of a column contains: which sequences of {@value #LENGTH} bytes the texts have, ignoring the case of ASCII
 * letters, each as one bit (a Bloom filter with one hash; B. Bloom, 1970). Immutable.
 */
public final class TextParts {
    private static final int LENGTH = 4;

    /** Each bit represents sequences whose hashes have the same last binary digits, so that a filter is made of a longer one. */
    private static final int MOST_BITS = 1 << 20;

    /** Bits for each sequence, so that one that is not there seems to be in one of nine cases. */
    private static final int BITS_OF_PART = 8;

    /** A filter takes at most one byte for this number of bytes of the texts. */
    private static final int SHARE = 32;

    private static final int LEAST_BYTES = 1 << 16;

    private final BitSet bits;
    private final int size;

    private TextParts(byte[] bytes) {
        bits = BitSet.valueOf(bytes);
        size = bytes.length * Byte.SIZE;
    }

    /**
     * Writes the filter of the texts of a column.
     *
     * @return false if the texts are short together, or so different that a filter would be large
     */
    public static boolean write(Texts.Builder texts, ByteWriter to) {
        int most = texts.length() / SHARE * Byte.SIZE;
        if (texts.length() < LEAST_BYTES) {
            return false;
        }
        long[] all = new long[MOST_BITS / Long.SIZE];
        texts.forEach((bytes, from, end) -> {
            for (int i = from; i + LENGTH <= end; i++) {
                int bit = hash(bytes, i) & MOST_BITS - 1;
                all[bit / Long.SIZE] |= 1L << bit;
            }
        });
        BitSet parts = BitSet.valueOf(all);
        long needed = (long) parts.cardinality() * BITS_OF_PART;
        int size =
                Math.max(Long.SIZE, Long.bitCount(needed) == 1 ? (int) needed : 2 * (int) Long.highestOneBit(needed));
        if (needed > MOST_BITS || size > most) {
            return false;
        }
        byte[] folded = new byte[size / Byte.SIZE];
        for (int bit = parts.nextSetBit(0); bit >= 0; bit = parts.nextSetBit(bit + 1)) {
            int place = bit & size - 1;
            folded[place / Byte.SIZE] |= (byte) (1 << place % Byte.SIZE);
        }
        to.put(folded);
        return true;
    }

    /**
     * Reads a filter.
     *
     * @param length its bytes
     */
    public static TextParts read(ByteReader from, int length) {
        if (length < Long.BYTES || Integer.bitCount(length) != 1) {
            throw new IndexOutOfBoundsException("a filter of " + length + " bytes");
        }
        return new TextParts(from.get(length));
    }

    /** Returns whether a text of the column may contain this one; false only if none does. */
    public boolean mayContain(byte[] text) {
        for (int i = 0; i + LENGTH <= text.length; i++) {
            if (!bits.get(hash(text, i) & size - 1)) {
                return false;
            }
        }
        return true;
    }

    /** Mixes the bytes, ASCII letters in lower case (the finaliser of murmur3 by A. Appleby). */
    private static int hash(byte[] bytes, int from) {
        int hash = 0;
        for (int i = from; i < from + LENGTH; i++) {
            byte b = bytes[i];
            hash = hash << Byte.SIZE | (b >= 'A' && b <= 'Z' ? b | 0x20 : b) & 0xFF;
        }
        hash = (hash ^ hash >>> 16) * 0x85EBCA6B;
        hash = (hash ^ hash >>> 13) * 0xC2B2AE35;
        return hash ^ hash >>> 16;
    }
}
