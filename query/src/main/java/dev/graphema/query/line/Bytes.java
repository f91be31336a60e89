package dev.graphema.query.line;

import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.nio.ByteOrder;

/**
 * Looks for bytes, eight at a time. Of a word from which eight times the wanted byte is taken by exclusive or, a byte is zero where it stood, and
 * taking one from each byte borrows from its highest bit there (H. S. Warren, Hacker's Delight, 6-1). The lowest such bit is right; those above it
 * may not be.
 */
final class Bytes {
    private static final VarHandle WORDS = MethodHandles.byteArrayViewVarHandle(long[].class, ByteOrder.LITTLE_ENDIAN);
    static final long ONES = 0x0101010101010101L;
    /** The bit of each byte by which large and small letters differ. */
    static final long CASE_BITS = ONES * 0x20;

    private static final long HIGH_BITS = 0x8080808080808080L;
    private static final long ROWS = 0xF0F0F0F0F0F0F0F0L;

    private Bytes() {}

    /** Eight bytes as one number. */
    static long word(byte[] bytes, int at) {
        return (long) WORDS.get(bytes, at);
    }

    /** How many bytes have to stand behind one that {@link #next} looks for. */
    static final int BEHIND = 4 * Long.BYTES - 1;

    /** Where the next such byte stands, which there must be, and {@value #BEHIND} bytes behind it. */
    static int next(char wanted, byte[] bytes, int from) {
        int i = from;
        while ((places(wanted, word(bytes, i))
                        | places(wanted, word(bytes, i + Long.BYTES))
                        | places(wanted, word(bytes, i + 2 * Long.BYTES))
                        | places(wanted, word(bytes, i + 3 * Long.BYTES)))
                == 0) {
            i += 4 * Long.BYTES;
        }
        long places;
        while ((places = places(wanted, word(bytes, i))) == 0) {
            i += Long.BYTES;
        }
        return i + first(places);
    }

    /** Where the first such byte stands, or -1. */
    static int indexOf(char wanted, byte[] bytes, int from, int to) {
        int i = from;
        int last = to - Long.BYTES;
        for (; i <= last; i += Long.BYTES) {
            long places = places(wanted, word(bytes, i));
            if (places != 0) {
                return i + first(places);
            }
        }
        while (i < to && bytes[i] != wanted) {
            i++;
        }
        return i < to ? i : -1;
    }

    /** Where the first byte stands that is either of the two, or -1. */
    static int indexOf(char one, char other, byte[] bytes, int from, int to) {
        int i = from;
        int last = to - Long.BYTES;
        for (; i <= last; i += Long.BYTES) {
            long word = word(bytes, i);
            long places = places(one, word) | places(other, word);
            if (places != 0) {
                return i + first(places);
            }
        }
        for (; i < to; i++) {
            if (bytes[i] == one || bytes[i] == other) {
                return i;
            }
        }
        return -1;
    }

    /** Where the last byte stands that is either of the two, or -1. */
    static int lastIndexOf(char one, char other, byte[] bytes, int from, int to) {
        int i = to - Long.BYTES;
        for (; i >= from; i -= Long.BYTES) {
            long word = word(bytes, i);
            long zeros = allPlaces(one, word) | allPlaces(other, word);
            if (zeros != 0) {
                return i + Long.BYTES - 1 - (Long.numberOfLeadingZeros(zeros) >>> 3);
            }
        }
        for (i += Long.BYTES - 1; i >= from; i--) {
            if (bytes[i] == one || bytes[i] == other) {
                return i;
            }
        }
        return -1;
    }

    /** Whether these bytes stand there. */
    static boolean areAt(byte[] wanted, byte[] bytes, int from, int to) {
        int length = wanted.length;
        if (to - from < length) {
            return false;
        }
        if (length < Long.BYTES) {
            for (int i = 0; i < length; i++) {
                if (bytes[from + i] != wanted[i]) {
                    return false;
                }
            }
            return true;
        }
        int last = length - Long.BYTES;
        for (int i = 0; i < last; i += Long.BYTES) {
            if (word(bytes, from + i) != word(wanted, i)) {
                return false;
            }
        }
        return word(bytes, from + last) == word(wanted, last);
    }

    /** Whether all eight bytes are digits: none leaves the row of digits, also not when six is added to it. */
    static boolean areDigits(long word) {
        long rows = word & ROWS | (word + ONES * 6 & ROWS) >>> 4;
        return rows == ONES * 0x33;
    }

    /** Whether eight digits stand there. */
    static boolean areDigits(byte[] bytes, int at) {
        return areDigits(word(bytes, at));
    }

    /** The number that eight digits spell: neighbours are put together, first two, then four, then all. */
    static int eightDigits(byte[] bytes, int at) {
        long pairs = (word(bytes, at) & ONES * 0x0F) * (10 * (1L << 8) + 1) >>> 8;
        long fours = (pairs & 0x00FF00FF00FF00FFL) * (100 * (1L << 16) + 1) >>> 16;
        return (int) ((fours & 0x0000FFFF0000FFFFL) * (10_000 * (1L << 32) + 1) >>> 32);
    }

    /** The highest bit of each byte that is the wanted one, of which only the lowest is sure; nothing when none is. */
    static long places(char wanted, long word) {
        long zeros = word ^ ONES * wanted;
        return zeros - ONES & ~zeros & HIGH_BITS;
    }

    /** As {@link #places}, but each is sure: adding to seven bits never carries into the next byte. */
    private static long allPlaces(char wanted, long word) {
        long zeros = word ^ ONES * wanted;
        return ~((zeros & ~HIGH_BITS) + ~HIGH_BITS | zeros | ~HIGH_BITS);
    }

    /** Which byte the lowest place is, counted from 0. */
    static int first(long places) {
        return Long.numberOfTrailingZeros(places) >>> 3;
    }
}
