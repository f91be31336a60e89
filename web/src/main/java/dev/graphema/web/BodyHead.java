package dev.graphema.web;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Counts the bytes of a body as they pass, and keeps the first of them. */
final class BodyHead {
    private final byte[] kept;
    private long count;

    /** @param most how many bytes are kept */
    BodyHead(int most) {
        kept = new byte[most];
    }

    void add(int octet) {
        if (count < kept.length) {
            kept[(int) count] = (byte) octet;
        }
        count++;
    }

    void add(byte[] bytes, int from, int length) {
        if (count < kept.length) {
            System.arraycopy(bytes, from, kept, (int) count, (int) Math.min(length, kept.length - count));
        }
        count += length;
    }

    long count() {
        return count;
    }

    /** What was kept, as text in UTF-8, with a mark when there was more; null when nothing is kept or came. */
    String text() {
        if (kept.length == 0 || count == 0) {
            return null;
        }
        int length = (int) Math.min(count, kept.length);
        String text = new String(Arrays.copyOf(kept, length), StandardCharsets.UTF_8);
        return count > length ? text + "… (+" + (count - length) + " bytes)" : text;
    }
}
