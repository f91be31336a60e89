package dev.graphema.trace;

import dev.graphema.text.Hex;

/**
 * The id of a trace as in W3C Trace Context: 16 bytes, not all zero.
 *
 * @param high the first 8 bytes
 * @param low the last 8 bytes
 */
public record TraceId(long high, long low) {
    /** Parses an id of 32 hexadecimal digits; null if the text is anything else, or all digits are zero. */
    public static TraceId parse(String text) {
        if (text.length() != 32 || !Hex.isHex(text)) {
            return null;
        }
        long high = Hex.parse(text, 0);
        long low = Hex.parse(text, 16);
        return high == 0 && low == 0 ? null : new TraceId(high, low);
    }

    /** Returns 32 lower-case hexadecimal digits. */
    @Override
    public String toString() {
        return Hex.digits(high) + Hex.digits(low);
    }
}
