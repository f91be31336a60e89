package dev.graphema.lines.json;

import java.time.DateTimeException;
import java.time.LocalDate;

/**
 * Reads the times of lines in Graphema JSON, most of which are in the same minute as the previous one. For one thread.
 */
final class PrefixTime {
    private static final long SECOND = 1_000_000_000L;
    private static final int FIRST_YEAR = 1677;
    private static final int LAST_YEAR = 2262;

    // Positions in a line.
    private static final int DATE_AT = LinePrefix.TIME_AT;
    private static final int SECONDS_AT = DATE_AT + 17;
    private static final int NANOS_AT = SECONDS_AT + 3;

    /** The position of the last eight bytes before the seconds, which overlap those before them. */
    private static final int LAST_AT = SECONDS_AT - Long.BYTES;

    // How lines of the minute that was read last begin, up to the colon: eight bytes at a time.
    private boolean hasMinute;
    private long first;
    private long second;
    private long third;
    private long last;
    private long minuteNanos;
    private byte[] line;
    private int start;

    /** Returns whether the line begins with a valid time, which is computed when needed, and a level. */
    boolean isIn(byte[] bytes, int from) {
        line = bytes;
        start = from;
        boolean isSameMinute = Bytes.word(bytes, from) == first
                && Bytes.word(bytes, from + Long.BYTES) == second
                && Bytes.word(bytes, from + 2 * Long.BYTES) == third
                && Bytes.word(bytes, from + LAST_AT) == last
                && hasMinute;
        return (isSameMinute || readMinute())
                && LinePrefix.hasLevelBehindTime(bytes, from)
                && isDigit(bytes[from + SECONDS_AT])
                && bytes[from + SECONDS_AT] <= '5'
                && isDigit(bytes[from + SECONDS_AT + 1])
                && bytes[from + NANOS_AT - 1] == '.'
                && isDigit(bytes[from + NANOS_AT])
                && Bytes.areDigits(bytes, from + NANOS_AT + 1);
    }

    private static boolean isDigit(byte b) {
        return b >= '0' && b <= '9';
    }

    /** Returns the time, in nanoseconds since 1970. */
    long epochNanos() {
        int nanos = digits(NANOS_AT, 1) * 100_000_000 + Bytes.eightDigits(line, start + NANOS_AT + 1);
        return minuteNanos + digits(SECONDS_AT, 2) * SECOND + nanos;
    }

    private boolean readMinute() {
        if (!LinePrefix.hasLevel(line, start) || !LinePrefix.isTime(line, start)) {
            return false;
        }
        int year = digits(DATE_AT, 4);
        if (year <= FIRST_YEAR || year >= LAST_YEAR) {
            return false; // nanoseconds since 1970 do not reach so far
        }
        int hours = digits(DATE_AT + 11, 2);
        int minutes = digits(DATE_AT + 14, 2);
        if (hours > 23 || minutes > 59) {
            return false;
        }
        try {
            long days = LocalDate.of(year, digits(DATE_AT + 5, 2), digits(DATE_AT + 8, 2))
                    .toEpochDay();
            minuteNanos = ((days * 24 + hours) * 60 + minutes) * 60 * SECOND;
        } catch (DateTimeException e) {
            return false;
        }
        first = Bytes.word(line, start);
        second = Bytes.word(line, start + Long.BYTES);
        third = Bytes.word(line, start + 2 * Long.BYTES);
        last = Bytes.word(line, start + LAST_AT);
        hasMinute = true;
        return true;
    }

    private int digits(int from, int count) {
        int number = 0;
        for (int i = start + from; i < start + from + count; i++) {
            number = number * 10 + line[i] - '0';
        }
        return number;
    }
}
