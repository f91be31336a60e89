package dev.graphema.text;

import java.math.BigDecimal;
import java.util.Locale;

/** Sizes such as {@code 4KB}, {@code 50MB}, {@code 1.5GB}, {@code 2TB}, with units that are multiples of 1024. */
public final class Sizes {
    private static final String[] UNITS = {"KB", "MB", "GB", "TB"};

    private Sizes() {}

    /**
     * Parses a size.
     *
     * @return the number of bytes, or null if the text is not a number followed by a unit
     */
    public static BigDecimal parse(String text) {
        String upper = text.toUpperCase(Locale.ROOT);
        for (int i = 0; i < UNITS.length; i++) {
            if (upper.endsWith(UNITS[i])) {
                BigDecimal count = Decimals.parse(text.substring(0, text.length() - 2));
                return count == null
                        ? null
                        : count.multiply(BigDecimal.valueOf(1024).pow(i + 1));
            }
        }
        return null;
    }
}
