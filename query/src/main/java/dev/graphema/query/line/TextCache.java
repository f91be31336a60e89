package dev.graphema.query.line;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/**
 * Texts by their bytes, since most that stand in logs stand there again: the names of services and loggers, messages, lanes. A text takes the place of
 * another with the same place in the table. For one thread.
 */
final class TextCache {
    private static final int SIZE = 4096;
    private static final int LONGEST = 64;

    private final byte[][] keys = new byte[SIZE][];
    private final String[] texts = new String[SIZE];

    String get(byte[] bytes, int from, int to) {
        int length = to - from;
        if (length > LONGEST) {
            return new String(bytes, from, length, StandardCharsets.UTF_8);
        }
        int hash = length;
        for (int i = from; i < to; i++) {
            hash = hash * 31 + bytes[i];
        }
        int place = (hash ^ hash >>> 12) & SIZE - 1;
        byte[] key = keys[place];
        if (key != null && Arrays.equals(key, 0, key.length, bytes, from, to)) {
            return texts[place];
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        keys[place] = Arrays.copyOfRange(bytes, from, to);
        texts[place] = text;
        return text;
    }
}
