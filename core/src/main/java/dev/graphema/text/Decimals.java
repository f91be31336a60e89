package dev.graphema.text;

import java.math.BigDecimal;

/** Decimal numbers in plain notation. */
public final class Decimals {
    /** The most digits of a number that is logged or read. */
    public static final int MOST_DIGITS = 1000;

    private static final int MOST_ZEROS = 64;
    private static final double DIGITS_OF_A_BIT = Math.log10(2);

    private Decimals() {}

    /**
     * Returns the plain notation of a number, {@code 1200} and not {@code 1.2E+3}, unless its exponent is so large that
     * the text would exhaust the memory.
     */
    public static String text(BigDecimal number) {
        return Math.abs((long) number.scale()) <= MOST_ZEROS ? number.toPlainString() : number.toString();
    }

    public static boolean isWhole(BigDecimal number) {
        return number.scale() <= 0 || number.stripTrailingZeros().scale() <= 0;
    }

    /** Returns the approximate number of digits without formatting the number. */
    public static long aboutDigits(BigDecimal number) {
        return (long) (number.unscaledValue().bitLength() * DIGITS_OF_A_BIT) + 1;
    }

    public static boolean hasTooManyDigits(BigDecimal number) {
        long about = aboutDigits(number);
        return about > MOST_DIGITS && (about > MOST_DIGITS + 2 || number.precision() > MOST_DIGITS);
    }

    /** Parses a number in plain decimal notation; null if it is none. */
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
