package dev.graphema.lines.json;

import dev.graphema.lines.time.TimeReader;
import dev.graphema.lines.time.TimeRules;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.LocalDate;

/**
 * Reads the times of lines of other programs: most are numbers, or in the form of RFC 3339 and of the same day as the line
 * before. For one thread.
 */
final class ForeignTime {
    /** The result for a text or number that is not a time, or not without doubt. */
    static final long NONE = Long.MIN_VALUE;

    private static final long SECOND = 1_000_000_000L;
    private static final int DATE_LENGTH = 10;
    private static final int CLOCK_END = 19;

    /** The year 2001 in seconds. Smaller numbers are times only if their names are those of times. */
    private static final long LEAST_SECONDS = 1_000_000_000L;

    private static final int MOST_DIGITS = 18;

    private final TimeReader reader;
    private final byte[] date = new byte[DATE_LENGTH];
    private long dateNanos = NONE;

    ForeignTime(TimeRules rules) {
        reader = new TimeReader(rules);
    }

    /** Returns the time of a text in nanoseconds since 1970. */
    long ofText(byte[] bytes, int from, int to) {
        long usual = usual(bytes, from, to);
        if (usual != NONE) {
            return usual;
        }
        String text = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        Long time = text.indexOf(':') < 0 ? null : reader.parse(text);
        return time == null || reader.isYearAssumed() ? NONE : time;
    }

    /** Returns the time of a number of the form {@code 1795442400.25} or {@code 1795442400250}. */
    static long ofNumber(byte[] bytes, int from, int to) {
        long number = 0;
        int point = -1;
        for (int i = from; i < to; i++) {
            if (bytes[i] == '.' && point < 0) {
                point = i;
            } else if (isDigit(bytes[i])) {
                number = number * 10 + bytes[i] - '0';
            } else {
                return NONE;
            }
        }
        int whole = (point < 0 ? to : point) - from;
        int fraction = point < 0 ? 0 : to - point - 1;
        if (whole + fraction > MOST_DIGITS || point >= 0 && (whole != 10 || fraction > 9)) {
            return NONE;
        }
        return switch (whole) {
            case 10 -> number < LEAST_SECONDS ? NONE : scaled(number, 9 - fraction);
            case 13 -> number * 1_000_000;
            case 16 -> number * 1_000;
            default -> NONE;
        };
    }

    private static long scaled(long number, int zeros) {
        long scaled = number;
        for (int i = 0; i < zeros; i++) {
            scaled *= 10;
        }
        return scaled;
    }

    /** Returns the time of a text in the form of RFC 3339 in UTC. */
    private long usual(byte[] bytes, int from, int to) {
        boolean isUsual = to - from > CLOCK_END
                && (bytes[from + DATE_LENGTH] | 0x20) == 't'
                && (bytes[to - 1] | 0x20) == 'z'
                && bytes[from + 13] == ':'
                && bytes[from + 16] == ':';
        if (!isUsual || !isDate(bytes, from)) {
            return NONE;
        }
        int hours = twoDigits(bytes, from + 11);
        int minutes = twoDigits(bytes, from + 14);
        int seconds = twoDigits(bytes, from + 17);
        int fraction = to - from - CLOCK_END - 2;
        boolean hasFraction = fraction > 0 && bytes[from + CLOCK_END] == '.';
        boolean isValid = hours >= 0 && hours < 24 && minutes >= 0 && minutes < 60 && seconds >= 0 && seconds < 60;
        if (!isValid || !hasFraction && to - from != CLOCK_END + 1 || fraction > 9) {
            return NONE;
        }
        long nanos = 0;
        for (int i = 0; i < fraction; i++) {
            byte digit = bytes[from + CLOCK_END + 1 + i];
            if (!isDigit(digit)) {
                return NONE;
            }
            nanos = nanos * 10 + digit - '0';
        }
        return dateNanos
                + (hours * 3_600L + minutes * 60L + seconds) * SECOND
                + scaled(nanos, 9 - Math.max(0, fraction));
    }

    private boolean isDate(byte[] bytes, int from) {
        if (dateNanos != NONE && Bytes.areAt(date, bytes, from, from + DATE_LENGTH)) {
            return true;
        }
        int century = twoDigits(bytes, from);
        int year = twoDigits(bytes, from + 2);
        if (bytes[from + 4] != '-' || bytes[from + 7] != '-' || century < 17 || century > 21 || year < 0) {
            return false;
        }
        try {
            long days = LocalDate.of(century * 100 + year, twoDigits(bytes, from + 5), twoDigits(bytes, from + 8))
                    .toEpochDay();
            dateNanos = days * 86_400 * SECOND;
            System.arraycopy(bytes, from, date, 0, DATE_LENGTH);
            return true;
        } catch (DateTimeException e) {
            return false;
        }
    }

    private static int twoDigits(byte[] bytes, int at) {
        return isDigit(bytes[at]) && isDigit(bytes[at + 1]) ? (bytes[at] - '0') * 10 + bytes[at + 1] - '0' : -1;
    }

    private static boolean isDigit(byte b) {
        return b >= '0' && b <= '9';
    }
}
