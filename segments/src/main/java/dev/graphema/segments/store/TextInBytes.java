package dev.graphema.segments.store;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;

/** Finds a text in bytes: as UTF-8, and as JSON with any of its escapes. Immutable. */
final class TextInBytes {
    /** The most bytes that JSON needs for a byte of UTF-8. */
    private static final int MOST_BYTES_OF_ESCAPE = 6;

    private final byte[] text;

    TextInBytes(String text) {
        this.text = text.getBytes(StandardCharsets.UTF_8);
    }

    /** Returns the most bytes that the text takes. */
    int longest() {
        return MOST_BYTES_OF_ESCAPE * text.length;
    }

    boolean isIn(byte[] bytes, int from, int to) {
        if (isPlainIn(bytes, from, to)) {
            return true;
        }
        int escape = from;
        while (escape < to && bytes[escape] != '\\') {
            escape++;
        }
        if (escape == to) {
            return false;
        }
        byte[] plain = withoutEscapes(Arrays.copyOfRange(bytes, from, to));
        return isPlainIn(plain, 0, plain.length);
    }

    private boolean isPlainIn(byte[] bytes, int from, int to) {
        for (int i = from; i <= to - text.length; i++) {
            if (bytes[i] == text[0] && Arrays.equals(bytes, i, i + text.length, text, 0, text.length)) {
                return true;
            }
        }
        return false;
    }

    /** Resolves the escapes of JSON (RFC 8259, section 7) wherever they are. */
    private static byte[] withoutEscapes(byte[] bytes) {
        String escaped = new String(bytes, StandardCharsets.UTF_8);
        StringBuilder plain = new StringBuilder(escaped.length());
        int i = 0;
        while (i < escaped.length()) {
            char c = escaped.charAt(i++);
            if (c != '\\' || i == escaped.length()) {
                plain.append(c);
                continue;
            }
            char letter = escaped.charAt(i++);
            int known = "bfnrt".indexOf(letter);
            if (letter == 'u' && i + 4 <= escaped.length() && isHex(escaped, i)) {
                plain.append((char) Integer.parseInt(escaped, i, i + 4, 16));
                i += 4;
            } else {
                plain.append(known >= 0 ? "\b\f\n\r\t".charAt(known) : letter);
            }
        }
        return plain.toString().getBytes(StandardCharsets.UTF_8);
    }

    private static boolean isHex(String text, int from) {
        return text.chars().skip(from).limit(4).allMatch(c -> Character.digit(c, 16) >= 0);
    }
}
