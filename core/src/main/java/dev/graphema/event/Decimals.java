package dev.graphema.event;

import java.math.BigDecimal;

/** Decimal numbers as people write them. */
public final class Decimals {
    private static final int MOST_ZEROS = 64;

    private Decimals() {}

    /**
     * The number in plain digits, {@code 1200} and not {@code 1.2E+3}, unless its exponent is so large that the digits would
     * fill the memory.
     */
    public static String text(BigDecimal number) {
        return Math.abs((long) number.scale()) <= MOST_ZEROS ? number.toPlainString() : number.toString();
    }

    /** The number that a text spells in plain decimal digits, or null. */
    public static BigDecimal parse(String text) {
        int length = text.length();
        if (length == 0 || length > 64) {
            return null;
        }
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            boolean digit = c >= '0' && c <= '9';
            if (!digit && c != '.' && !(c == '-' && i == 0)) {
                return null;
            }
        }
        try {
            return new BigDecimal(text);
        } catch (NumberFormatException e) {
            return null; // only points, or more than one
        }
    }
}
