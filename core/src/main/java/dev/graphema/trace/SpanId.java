package dev.graphema.trace;

import dev.graphema.text.Hex;

/**
 * The id of a span as in W3C Trace Context: 8 bytes, not all zero.
 *
 * @param bits the 8 bytes
 */
public record SpanId(long bits) {
    /** Parses an id of 16 hexadecimal digits; null if the text is anything else, or all digits are zero. */
    public static SpanId parse(String text) {
        if (text.length() != 16 || !Hex.isHex(text)) {
            return null;
        }
        long bits = Hex.parse(text, 0);
        return bits == 0 ? null : new SpanId(bits);
    }

    /** Returns 16 lower-case hexadecimal digits. */
    @Override
    public String toString() {
        return Hex.digits(bits);
    }
}
