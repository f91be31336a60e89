package dev.graphema.lines.json;

import java.time.DateTimeException;
import java.time.LocalDate;

/** Reads times as Graphema JSON has them: {@code 2026-11-23T05:01:02.000000000Z}, from 1678 to 2261. For one thread. */
public final class JsonTime {
    /** The bytes of a time, without the Z. */
    public static final int LENGTH = 29;

    private static final String FORM = "0000-00-00T00:00:00.000000000";
    private static final long SECOND = 1_000_000_000L;
    private static final int FIRST_YEAR = 1677;
    private static final int LAST_YEAR = 2262;
    private static final int NANO_DIGITS = 9;

    private byte[] line;
    private int start;
    private long minuteNanos;
    private int seconds;

    /** Returns whether a valid time, without the Z, is at the position, which at least {@link #LENGTH} bytes follow. */
    public boolean isAt(byte[] bytes, int at) {
        line = bytes;
        start = at;
        for (int i = 0; i < LENGTH; i++) {
            byte b = bytes[at + i];
            char form = FORM.charAt(i);
            if (form == '0' ? b < '0' || b > '9' : b != form) {
                return false;
            }
        }
        return isValid();
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

    /** Returns the time of the last position, in nanoseconds since 1970. */
    public long epochNanos() {
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
