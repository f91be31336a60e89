package dev.graphema.lines.json;

import java.time.DateTimeException;
import java.time.LocalDate;

/** Reads the times of lines in Graphema JSON. For one thread. */
final class PrefixTime {
    private static final long SECOND = 1_000_000_000L;
    private static final int FIRST_YEAR = 1677;
    private static final int LAST_YEAR = 2262;
    private static final int NANO_DIGITS = 9;

    private byte[] line;
    private int start;
    private long minuteNanos;
    private int seconds;

    /** Returns whether the line, of at least {@link LinePrefix#LEVEL_AT} bytes, begins with a valid time, and a level. */
    boolean isIn(byte[] bytes, int from) {
        line = bytes;
        start = from + LinePrefix.TIME_AT;
        return LinePrefix.hasLevel(bytes, from) && LinePrefix.isTime(bytes, from) && isValid();
    }

    private boolean isValid() {
        int year = digits(0, 4);
        int hours = digits(11, 2);
        int minutes = digits(14, 2);
        seconds = digits(17, 2);
        // Nanoseconds since 1970 do not reach further.
        if (year <= FIRST_YEAR || year >= LAST_YEAR || hours > 23 || minutes > 59 || seconds > 59) {
            return false;
        }
        try {
            long days = LocalDate.of(year, digits(5, 2), digits(8, 2)).toEpochDay();
            minuteNanos = ((days * 24 + hours) * 60 + minutes) * 60 * SECOND;
            return true;
        } catch (DateTimeException e) {
            return false;
        }
    }

    /** Returns the time, in nanoseconds since 1970. */
    long epochNanos() {
        return minuteNanos + seconds * SECOND + digits(20, NANO_DIGITS);
    }

    private int digits(int from, int count) {
        int number = 0;
        for (int i = start + from; i < start + from + count; i++) {
            number = number * 10 + line[i] - '0';
        }
        return number;
    }
}
