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
}
