package dev.graphema.text;

import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;
import java.util.Locale;

/** Durations such as {@code 250ms}, {@code 1.5s}, {@code 15m}, {@code 2h}, {@code 3d}. */
public final class Durations {
    private static final BigDecimal NANOS_PER_SECOND = BigDecimal.valueOf(1_000_000_000L);
    private static final BigDecimal MOST_SECONDS = BigDecimal.valueOf(Long.MAX_VALUE);

    private Durations() {}

    /** Returns a duration with all its digits, in the largest unit up to seconds in which it is 1 or more: 254.085471ms. */
    public static String exact(Duration duration) {
        BigDecimal nanos = BigDecimal.valueOf(duration.getSeconds())
                .multiply(NANOS_PER_SECOND)
                .add(BigDecimal.valueOf(duration.getNano()));
        String unit = "s";
        for (String smaller : new String[] {"ms", "us", "ns"}) {
            boolean isLess = nanos.signum() != 0 && nanos.abs().compareTo(nanosPer(unit)) < 0;
            unit = isLess ? smaller : unit;
        }
        BigDecimal number = nanos.divide(nanosPer(unit)).stripTrailingZeros();
        return number.toPlainString() + unit;
    }

    /** Returns the duration of a number of nanoseconds, rounded to whole ones; the longest one if it is longer. */
    public static Duration ofNanos(BigDecimal nanos) {
        BigDecimal[] parts = nanos.setScale(0, RoundingMode.HALF_EVEN).divideAndRemainder(NANOS_PER_SECOND);
        BigDecimal seconds = parts[0].min(MOST_SECONDS).max(MOST_SECONDS.negate());
        return Duration.ofSeconds(seconds.longValueExact(), parts[1].longValueExact());
    }

    /**
     * Parses a number followed by a unit (ns, us or µs, ms, s, m, h, d, w) without a space; null if the text is
     * anything else.
     */
    public static Duration parse(String text) {
        int unitAt = text.length();
        while (unitAt > 0 && !isDigit(text.charAt(unitAt - 1))) {
            unitAt--;
        }
        BigDecimal nanosPerUnit = nanosPer(text.substring(unitAt).toLowerCase(Locale.ROOT));
        if (nanosPerUnit == null || !isPlainNumber(text, unitAt)) {
            return null;
        }
        BigDecimal nanos = new BigDecimal(text.substring(0, unitAt)).multiply(nanosPerUnit);
        BigDecimal[] parts = nanos.setScale(0, RoundingMode.HALF_UP).divideAndRemainder(NANOS_PER_SECOND);
        return parts[0].compareTo(MOST_SECONDS) > 0
                ? null
                : Duration.ofSeconds(parts[0].longValue(), parts[1].longValue());
    }

    /**
     * Formats a duration, with three significant digits below a minute: {@code 12.3ms}, {@code 1.5s}, {@code 2m 5s},
     * {@code 3h 20m}.
     */
    public static String text(Duration duration) {
        if (duration.isNegative()) {
            return "-" + text(duration.negated());
        }
        long seconds = duration.getSeconds();
        if (seconds >= 86_400) {
            return pair(seconds / 86_400, "d", seconds % 86_400 / 3_600, "h");
        }
        if (seconds >= 3_600) {
            return pair(seconds / 3_600, "h", seconds % 3_600 / 60, "m");
        }
        if (seconds >= 60) {
            return pair(seconds / 60, "m", seconds % 60, "s");
        }
        long nanos = duration.toNanos();
        if (nanos >= 999_500_000L) {
            return significant(nanos, 1_000_000_000L) + "s";
        }
        if (nanos >= 999_500L) {
            return significant(nanos, 1_000_000L) + "ms";
        }
        return nanos >= 1_000 ? significant(nanos, 1_000L) + "us" : nanos + "ns";
    }

    private static String pair(long large, String largeUnit, long small, String smallUnit) {
        return small == 0 ? large + largeUnit : large + largeUnit + " " + small + smallUnit;
    }

    private static String significant(long nanos, long unit) {
        BigDecimal value = new BigDecimal(nanos).divide(new BigDecimal(unit), new java.math.MathContext(3));
        return value.stripTrailingZeros().toPlainString();
    }

    private static BigDecimal nanosPer(String unit) {
        return switch (unit) {
            case "ns" -> BigDecimal.ONE;
            case "us", "µs" -> BigDecimal.valueOf(1_000);
            case "ms" -> BigDecimal.valueOf(1_000_000);
            case "s" -> NANOS_PER_SECOND;
            case "m" -> BigDecimal.valueOf(60_000_000_000L);
            case "h" -> BigDecimal.valueOf(3_600_000_000_000L);
            case "d" -> BigDecimal.valueOf(86_400_000_000_000L);
            case "w" -> BigDecimal.valueOf(604_800_000_000_000L);
            default -> null;
        };
    }

    private static boolean isPlainNumber(String text, int length) {
        int digits = 0;
        int points = 0;
        for (int i = 0; i < length; i++) {
            char c = text.charAt(i);
            if (isDigit(c)) {
                digits++;
            } else if (c == '.') {
                points++;
            } else if (i > 0 || c != '-') {
                return false;
            }
        }
        return digits > 0 && points <= 1 && length <= 30;
    }

    private static boolean isDigit(char c) {
        return c >= '0' && c <= '9';
    }
}
