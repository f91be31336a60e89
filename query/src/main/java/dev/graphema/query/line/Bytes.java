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
    private static final long HIGH_BITS = 0x8080808080808080L;

    private Bytes() {}

    /** Eight bytes as one number. */
    static long word(byte[] bytes, int at) {
        return (long) WORDS.get(bytes, at);
    }

    /** Where the first quote or backslash stands, or -1. */
    static int indexOfQuoteOrBackslash(byte[] bytes, int from, int to) {
        int i = from;
        for (; i + Long.BYTES <= to; i += Long.BYTES) {
            long word = word(bytes, i);
            long zeros = zeros(word ^ ONES * '"') | zeros(word ^ ONES * '\\');
            if (zeros != 0) {
                return i + (Long.numberOfTrailingZeros(zeros) >>> 3);
            }
        }
        for (; i < to; i++) {
            if (bytes[i] == '"' || bytes[i] == '\\') {
                return i;
            }
        }
        return -1;
    }

    /** The highest bit of each byte that is zero, up to the first of them; nothing when none is. */
    static long zeros(long word) {
        return word - ONES & ~word & HIGH_BITS;
    }
}
