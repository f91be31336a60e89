package dev.graphema.text;

/**
 * Characters that have an effect on a terminal: control characters, which move the cursor and break lines, and
 * bidirectional marks. All formats escape them.
 */
public final class Escapes {
    private static final String HEX = "0123456789abcdef";
    private static final AsciiSet PRINTABLE = AsciiSet.printableExcept("");

    private Escapes() {}

    /** Returns whether the character is printed unchanged. */
    public static boolean isHarmless(int c) {
        if (c < 0x20 || c >= 0x7F && c < 0xA0) {
            return false;
        }
        return c < 0x61C
                || !(c == 0x61C
                        || c == 0x200E
                        || c == 0x200F
                        || c >= 0x2028 && c <= 0x202E
                        || c >= 0x2066 && c <= 0x2069
                        || c == 0xFEFF);
    }

    /** Returns the text with escapes instead of other characters: {@code \n}, {@code \t}, {@code \u001b}. */
    public static String visible(String text) {
        for (int i = 0; i < text.length(); i++) {
            if (!isHarmless(text.charAt(i))) {
                Utf8Buffer buffer = new Utf8Buffer(text.length() + 16);
                visible(text, buffer);
                return buffer.toString();
            }
        }
        return text;
    }

    /** Writes the text as {@link #visible(String)} returns it. */
    public static void visible(String text, Utf8Buffer to) {
        if (PRINTABLE.containsAll(text)) {
            to.ascii(text);
            return;
        }
        for (int i = 0; i < text.length(); ) {
            int point = text.codePointAt(i);
            visible(point, to);
            i += Character.charCount(point);
        }
    }

    /** Writes one character of a text. */
    public static void visible(int point, Utf8Buffer to) {
        if (isHarmless(point)) {
            to.codePoint(point);
        } else {
            escape((char) point, to);
        }
    }

    /** Writes a character as a JSON escape, which people can read too. */
    public static void escape(char c, Utf8Buffer to) {
        to.ascii('\\');
        switch (c) {
            case '\n' -> to.ascii('n');
            case '\r' -> to.ascii('r');
            case '\t' -> to.ascii('t');
            case '\b' -> to.ascii('b');
            case '\f' -> to.ascii('f');
            default ->
                to.ascii('u')
                        .ascii(HEX.charAt(c >> 12))
                        .ascii(HEX.charAt(c >> 8 & 15))
                        .ascii(HEX.charAt(c >> 4 & 15))
                        .ascii(HEX.charAt(c & 15));
        }
    }
}
