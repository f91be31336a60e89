package dev.graphema.lines.json;

/** The encoding of RFC 3629. */
public final class Utf8 {
    private Utf8() {}

    /** Returns whether the bytes are valid. */
    public static boolean isValid(byte[] bytes, int from, int to) {
        int at = from;
        while (true) {
            while (at + Long.BYTES <= to && (Bytes.word(bytes, at) & Bytes.HIGH_BITS) == 0) {
                at += Long.BYTES;
            }
            while (at < to && bytes[at] >= 0) {
                at++;
            }
            if (at >= to) {
                return true;
            }
            int length = length(bytes, at, to);
            if (length == 0) {
                return false;
            }
            at += length;
        }
    }

    /** Returns the length of the character that begins here, of two or more bytes; 0 if it is invalid. */
    private static int length(byte[] bytes, int at, int to) {
        int first = bytes[at] & 0xFF;
        int length = first >= 0xC2 && first < 0xE0
                ? 2
                : first >= 0xE0 && first < 0xF0 ? 3 : first >= 0xF0 && first < 0xF5 ? 4 : 0;
        if (length == 0 || at + length > to) {
            return 0;
        }
        for (int i = 1; i < length; i++) {
            if ((bytes[at + i] & 0xC0) != 0x80) {
                return 0;
            }
        }
        int second = bytes[at + 1] & 0xFF;
        boolean isInvalid = first == 0xE0 && second < 0xA0
                || first == 0xED && second > 0x9F
                || first == 0xF0 && second < 0x90
                || first == 0xF4 && second > 0x8F;
        return isInvalid ? 0 : length;
    }
}
