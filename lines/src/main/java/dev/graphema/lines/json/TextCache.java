package dev.graphema.lines.json;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * A cache of texts by their bytes, because most texts in logs recur: names of services and loggers, messages, lanes. A
 * text replaces another one with the same index. For one thread.
 */
final class TextCache {
    private static final int SIZE_BITS = 12;
    private static final int SIZE = 1 << SIZE_BITS;

    /** An odd multiplier without a pattern in its bits, so that the highest bits of a product depend on all bits. */
    static final long SPREAD = 0x9E3779B97F4A7C15L;

    private static final int LONGEST = 64;

    private final byte[][] keys = new byte[SIZE][];
    private final long[] rests = new long[SIZE];
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
        long rest = rest(bytes, i, to);
        hash = (hash ^ rest) * SPREAD;
        int place = (int) (hash >>> Long.SIZE - SIZE_BITS);
        byte[] key = keys[place];
        if (key != null
                && key.length == length
                && rests[place] == rest
                && (length < Long.BYTES || Bytes.areAt(key, bytes, from, to))) {
            return texts[place];
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        keys[place] = Arrays.copyOfRange(bytes, from, to);
        rests[place] = rest;
        texts[place] = text;
        return text;
    }

    /** Returns the up to seven bytes after complete words, padded with zeros. */
    private static long rest(byte[] bytes, int from, int to) {
        if (from + Long.BYTES <= bytes.length) {
            return Bytes.word(bytes, from) & (1L << (to - from) * Byte.SIZE) - 1;
        }
        long rest = 0;
        for (int i = from; i < to; i++) {
            rest |= (bytes[i] & 0xFFL) << (i - from) * Byte.SIZE;
        }
        return rest;
    }
}
