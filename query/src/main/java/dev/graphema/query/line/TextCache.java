package dev.graphema.query.line;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Texts by their bytes, since most that stand in logs stand there again: the names of services and loggers, messages, lanes. A text takes the place of
 * another with the same place in the table. For one thread.
 */
final class TextCache {
    private static final int SIZE_BITS = 12;
    private static final int SIZE = 1 << SIZE_BITS;

    /** Odd, with no order in its bits, so that all of a product's highest bits come from all of the factor. */
    static final long SPREAD = 0x9E3779B97F4A7C15L;

    private static final int LONGEST = 64;

    private final byte[][] keys = new byte[SIZE][];
    private final String[] texts = new String[SIZE];

    String get(byte[] bytes, int from, int to) {
        int length = to - from;
        if (length > LONGEST) {
            return new String(bytes, from, length, StandardCharsets.UTF_8);
        }
        long hash = length;
        int i = from;
        for (; i + Long.BYTES <= to; i += Long.BYTES) {
            hash = (hash ^ Bytes.word(bytes, i)) * SPREAD;
        }
        if (i < to && i + Long.BYTES <= bytes.length) {
            long rest = Bytes.word(bytes, i) & (1L << (to - i) * Byte.SIZE) - 1;
            hash = (hash ^ rest) * SPREAD;
        } else {
            for (; i < to; i++) {
                hash = (hash ^ bytes[i]) * SPREAD;
            }
        }
        int place = (int) (hash >>> Long.SIZE - SIZE_BITS);
        byte[] key = keys[place];
        if (key != null && key.length == length && Bytes.areAt(key, bytes, from, to)) {
            return texts[place];
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        keys[place] = Arrays.copyOfRange(bytes, from, to);
        texts[place] = text;
        return text;
    }
}
