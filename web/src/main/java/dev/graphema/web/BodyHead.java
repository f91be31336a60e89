package dev.graphema.web;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Counts the bytes of a body, and keeps the first of them. */
final class BodyHead {
    /** The distance in which the begin of a cut value is searched. */
    private static final int LONGEST_PART = 128;

    private final byte[] kept;
    private int keptLength;
    private long count;

    /** @param most the most bytes to keep */
    BodyHead(int most) {
        kept = new byte[most];
    }

    void add(int octet) {
        if (keptLength < kept.length) {
            kept[keptLength++] = (byte) octet;
        }
        count++;
    }

    void add(byte[] bytes, int from, int length) {
        int more = Math.min(length, kept.length - keptLength);
        System.arraycopy(bytes, from, kept, keptLength, more);
        keptLength += more;
        count += length;
    }

    /**
     * Keeps bytes of a different encoding.
     *
     * @param length the number of bytes to count
     */
    void keep(byte[] bytes, long length) {
        add(bytes, 0, bytes.length);
        count += length - bytes.length;
    }

    /** Counts bytes that are not kept. */
    void skip(long length) {
        count += length;
    }

    /** Resets the count: the body was discarded. */
    void restart() {
        keptLength = 0;
        count = 0;
    }

    long count() {
        return count;
    }

    /** Returns the kept bytes as UTF-8 text, with a marker if there were more; null if there are none. */
    String text() {
        if (kept.length == 0 || count == 0) {
            return null;
        }
        String text = new String(Arrays.copyOf(kept, keptLength), StandardCharsets.UTF_8);
        return count > keptLength ? withoutPart(text) + "… (+" + (count - keptLength) + " bytes)" : text;
    }

    /** Returns the text without the value in which it was cut: a part of a secret may not be recognised. */
    private static String withoutPart(String text) {
        int end = text.length();
        int least = Math.max(0, end - LONGEST_PART);
        while (end > least && "\"'<>{}[]&,;\n".indexOf(text.charAt(end - 1)) < 0) {
            end--;
        }
        return text.substring(0, end);
    }
}
