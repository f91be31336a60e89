package dev.graphema.web;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Counts the bytes of a body as they pass, and keeps the first of them. */
final class BodyHead {
    /** How far back a value that was cut off is looked for. */
    private static final int LONGEST_PART = 128;

    private final byte[] kept;
    private int keptLength;
    private long count;

    /** @param most how many bytes are kept */
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

    /** Keeps bytes that stand for others. @param length how many bytes pass */
    void keep(byte[] bytes, long length) {
        add(bytes, 0, bytes.length);
        count += length - bytes.length;
    }

    /** Counts bytes that are not kept. */
    void skip(long length) {
        count += length;
    }

    /** What passed so far was discarded. */
    void restart() {
        keptLength = 0;
        count = 0;
    }

    long count() {
        return count;
    }

    /** What was kept, as text in UTF-8, with a mark when there was more; null when nothing is kept or came. */
    String text() {
        if (kept.length == 0 || count == 0) {
            return null;
        }
        String text = new String(Arrays.copyOf(kept, keptLength), StandardCharsets.UTF_8);
        return count > keptLength ? withoutPart(text) + "… (+" + (count - keptLength) + " bytes)" : text;
    }

    /** The text without the value in which it was cut off: half a secret would not be recognised as one. */
    private static String withoutPart(String text) {
        int end = text.length();
        int least = Math.max(0, end - LONGEST_PART);
        while (end > least && "\"'<>{}[]&,;\n".indexOf(text.charAt(end - 1)) < 0) {
            end--;
        }
        return text.substring(0, end);
    }
}
