package dev.graphema.text;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneId;
import java.util.function.Supplier;

/** Points in time as one {@code long}: nanoseconds since 1970-01-01T00:00:00Z, from the year 1677 to 2262. */
public final class Times {
    private static final long NANOS = 1_000_000_000L;
    private static final long LONGEST_VALID_NANOS = 1_000_000L;

    /** The difference between the clock and {@link System#nanoTime}, and until when it can be used. */
    private static volatile long offset;

    private static volatile long validUntil = System.nanoTime() - 1;

    private Times() {}

    /** Returns the nearest representable value, if the instant is outside of these years. */
    public static long epochNanos(Instant instant) {
        long seconds = instant.getEpochSecond();
        if (seconds >= Long.MAX_VALUE / NANOS) {
            return Long.MAX_VALUE;
        }
        if (seconds <= Long.MIN_VALUE / NANOS) {
            return Long.MIN_VALUE;
        }
        return seconds * NANOS + instant.getNano();
    }

    /** Returns whether the value is the nearest one to an instant outside of these years. */
    public static boolean isCutOff(long epochNanos) {
        return epochNanos == Long.MAX_VALUE || epochNanos == Long.MIN_VALUE;
    }

    public static Instant instant(long epochNanos) {
        return Instant.ofEpochSecond(Math.floorDiv(epochNanos, NANOS), Math.floorMod(epochNanos, NANOS));
    }

    /**
     * Parses a time in RFC 3339 format ({@code 2026-05-15T07:31:02.5Z}, with any offset), or a local date, or date and
     * time, in the zone; null if it is anything else.
     */
    public static Long parse(String text, ZoneId zone) {
        return parse(text, () -> zone);
    }

    /** As above. The zone is requested only if the text is a local date, or date and time. */
    public static Long parse(String text, Supplier<ZoneId> zone) {
        if (text.length() < 10 || text.charAt(4) != '-') {
            return null;
        }
        try {
            if (isUtcWithFraction(text)) {
                return utc(text);
            }
            if (text.length() == 10) {
                return epochNanos(LocalDate.parse(text).atStartOfDay(zone.get()).toInstant());
            }
            char last = text.charAt(text.length() - 1);
            boolean hasOffset = last == 'Z' || last == 'z' || text.indexOf('+', 10) > 0 || text.indexOf('-', 10) > 0;
            return epochNanos(
                    hasOffset
                            ? OffsetDateTime.parse(text).toInstant()
                            : LocalDateTime.parse(text).atZone(zone.get()).toInstant());
        } catch (DateTimeException e) {
            return null;
        }
    }

    /**
     * Returns whether the text has the usual form of stored times: 2026-05-15T07:31:02.5Z, with one to nine digits of a
     * fraction.
     */
    private static boolean isUtcWithFraction(String text) {
        int length = text.length();
        if (length < 22 || length > 30 || text.charAt(19) != '.' || text.charAt(length - 1) != 'Z') {
            return false;
        }
        for (int i = 0; i < length - 1; i++) {
            char expected = i < 19 ? "0000-00-00T00:00:00".charAt(i) : i == 19 ? '.' : '0';
            char c = text.charAt(i);
            if (expected == '0' ? c < '0' || c > '9' : c != expected) {
                return false;
            }
        }
        return true;
    }

    private static long utc(String text) {
        LocalDate date = LocalDate.of(number(text, 0, 4), number(text, 5, 7), number(text, 8, 10));
        LocalTime time = LocalTime.of(number(text, 11, 13), number(text, 14, 16), number(text, 17, 19));
        int digits = text.length() - 21;
        long nanos = number(text, 20, text.length() - 1);
        for (int i = digits; i < 9; i++) {
            nanos *= 10;
        }
        return epochNanos(Instant.ofEpochSecond(date.toEpochDay() * 86_400 + time.toSecondOfDay(), nanos));
    }

    private static int number(String text, int from, int to) {
        int number = 0;
        for (int i = from; i < to; i++) {
            number = number * 10 + text.charAt(i) - '0';
        }
        return number;
    }

    /**
     * Returns the current time with the precision of the platform. It is counted by {@link System#nanoTime} from a
     * reading of the clock that is at most a millisecond old, which takes half the time of a reading and allocates no
     * object.
     */
    public static long now() {
        long nanoTime = System.nanoTime();
        long left = validUntil - nanoTime;
        return left > 0 && left <= LONGEST_VALID_NANOS ? offset + nanoTime : readClock();
    }

    private static long readClock() {
        long nanoTime = System.nanoTime();
        long now = epochNanos(Instant.now());
        // In this order: a thread that sees the second value sees the first one, too.
        offset = now - nanoTime;
        validUntil = nanoTime + LONGEST_VALID_NANOS;
        return now;
    }
}
