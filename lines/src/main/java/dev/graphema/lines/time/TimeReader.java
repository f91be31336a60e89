package dev.graphema.lines.time;

import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.text.ParsePosition;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoField;
import java.time.temporal.TemporalAccessor;
import java.time.temporal.TemporalQueries;

/**
 * Reads times in the forms in which programs write them, as a complete text or at the beginning of one: RFC 3339 and ISO
 * 8601 in basic and extended form with any number of digits of the fraction, with a space instead of the T, a comma
 * before the fraction, or slashes; {@code Nov 23 05:10:46} with or without a year; {@code 23 Nov 2026 05:01:56.022};
 * {@code 23/Nov/2026:04:54:11 +0000}; {@code Mon Nov 23 04:54:11 2026}; {@code 23.11.2026 05:01:56}; {@code 11/23/2026
 * 05:01:56 PM}; seconds, milliseconds, microseconds or nanoseconds since 1970, distinguished by magnitude; and a
 * user-defined form.
 *
 * <p>The default offset is UTC. More than nine digits of a fraction are cut, and a leap second is the following second.
 * For one thread.
 */
public final class TimeReader {
    /** The year 5138 in seconds, and 1973 in milliseconds. The other units have the same distance. */
    private static final double MOST_SECONDS = 1e11;

    private static final long SECONDS_OF_A_DAY = 86_400;
    private static final long NANOS_OF_A_SECOND = 1_000_000_000;

    /** Nanoseconds since 1970 in 64 bits reach from 1677 to 2262. */
    private static final long MOST_EPOCH_SECONDS = Long.MAX_VALUE / NANOS_OF_A_SECOND - 1;

    private final TimeRules rules;
    private final DateScanner date;
    private final ClockScanner clock;
    private final TextCursor text = new TextCursor();

    private long nanos;
    private String doubtfulZone;
    private boolean isYearAssumed;
    private boolean isOrderUnknown;

    public TimeReader(TimeRules rules) {
        this.rules = rules;
        this.date = new DateScanner(text);
        this.clock = new ClockScanner(text, rules);
    }

    /** Parses a complete text in nanoseconds since 1970; null if it is not a time from 1677 to 2262. */
    public Long parse(String whole) {
        String trimmed = whole.strip();
        if (trimmed.startsWith("[") && trimmed.endsWith("]")) {
            trimmed = trimmed.substring(1, trimmed.length() - 1);
        }
        reset();
        if (trimmed.length() < 8 || trimmed.length() > 100) {
            return null;
        }
        if (formatted(trimmed, 0) == trimmed.length()) {
            return nanos;
        }
        Long number = number(trimmed);
        if (number != null) {
            return number;
        }
        text.set(trimmed, 0);
        if (!scan(true)) {
            return null;
        }
        if (text.isAtEnd()) {
            return nanos;
        }
        String rest = trimmed.substring(text.at()).strip();
        doubtfulZone = rest.matches("[A-Z]{2,5}") ? rest : null;
        return null;
    }

    /**
     * Reads a date and a time of day at a position of a text.
     *
     * @return the position behind the time, whose value is {@link #nanos}; -1 if none begins here
     */
    public int read(String line, int from) {
        reset();
        int end = formatted(line, from);
        if (end >= 0) {
            return end;
        }
        text.set(line, from);
        return scan(false) ? text.at() : -1;
    }

    /** Parses a time of day such as {@code 05:01:56.022}, of a date that is written elsewhere; null if it is none. */
    public Long parse(String dateText, String timeOfDay) {
        String time = timeOfDay.strip();
        return time.length() >= 4 && time.indexOf(':') > 0 && time.indexOf(':') <= 2
                ? parse(dateText.strip() + " " + time)
                : null;
    }

    /** Returns the time that {@link #read} has found, in nanoseconds since 1970. */
    public long nanos() {
        return nanos;
    }

    /** Returns the name of a zone that kept the last text from being a time; null for none. */
    public String doubtfulZone() {
        return doubtfulZone;
    }

    /** Returns whether the last time had no year. */
    public boolean isYearAssumed() {
        return isYearAssumed;
    }

    /** Returns whether the last text is no time because day and month cannot be distinguished. */
    public boolean isOrderUnknown() {
        return isOrderUnknown;
    }

    /** Returns the order that a date proves, because one of its numbers is above 12; null for none. */
    public DateOrder provenOrder() {
        return date.provenOrder();
    }

    /** Returns the time of a number since 1970, in nanoseconds; null if it is none. */
    public static Long ofNumber(BigDecimal number) {
        double size = number.doubleValue();
        if (size < 0 || size >= MOST_SECONDS * 1e9) {
            return null;
        }
        long perUnit = size < MOST_SECONDS
                ? NANOS_OF_A_SECOND
                : size < MOST_SECONDS * 1e3 ? 1_000_000L : size < MOST_SECONDS * 1e6 ? 1_000L : 1L;
        BigDecimal nanos = number.multiply(BigDecimal.valueOf(perUnit));
        return nanos.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) < 0 ? nanos.longValue() : null;
    }

    private void reset() {
        doubtfulZone = null;
        isYearAssumed = false;
        isOrderUnknown = false;
    }

    private static Long number(String text) {
        int digits = 0;
        while (digits < text.length() && TextCursor.isDigit(text.charAt(digits))) {
            digits++;
        }
        boolean isNumber = digits >= 9
                && digits <= 19
                && (digits == text.length() || text.substring(digits).matches("\\.[0-9]{1,30}"));
        return isNumber ? ofNumber(new BigDecimal(text)) : null;
    }

    private boolean scan(boolean isWhole) {
        if (!date.scan()) {
            return false;
        }
        boolean hasClock = clock.scan(date.form());
        if (!hasClock && (!isWhole || !date.hasYear())) {
            return false;
        }
        if (!date.hasYear()) {
            date.yearBehind();
        }
        if (clock.doubtfulZone() != null) {
            doubtfulZone = clock.doubtfulZone();
            return false;
        }
        LocalDate day = day();
        return day != null && moment(day.toEpochDay() * SECONDS_OF_A_DAY);
    }

    private boolean moment(long startOfDay) {
        long seconds = startOfDay + clock.secondOfDay() - clock.offsetSeconds();
        if (Math.abs(seconds) > MOST_EPOCH_SECONDS) {
            return false;
        }
        nanos = seconds * NANOS_OF_A_SECOND + clock.nanoOfSecond();
        return true;
    }

    private LocalDate day() {
        if (!date.hasYear()) {
            isYearAssumed = true;
            return rules.near() == null ? null : closest(Times.instant(rules.near()), date.month(), date.first());
        }
        DateOrder order = date.provenOrder() == null ? rules.order() : date.provenOrder();
        isOrderUnknown = date.isOrderOpen() && order == null;
        if (isOrderUnknown) {
            return null;
        }
        boolean isSwapped = date.isOrderOpen() && order == DateOrder.MONTH_FIRST;
        return dayOf(date.year(), isSwapped ? date.first() : date.month(), isSwapped ? date.month() : date.first());
    }

    private static LocalDate closest(Instant near, int month, int dayOfMonth) {
        LocalDate today = near.atOffset(ZoneOffset.UTC).toLocalDate();
        LocalDate best = null;
        for (int year = today.getYear() - 1; year <= today.getYear() + 1; year++) {
            LocalDate day = dayOf(year, month, dayOfMonth);
            if (day != null
                    && (best == null
                            || Math.abs(day.toEpochDay() - today.toEpochDay())
                                    < Math.abs(best.toEpochDay() - today.toEpochDay()))) {
                best = day;
            }
        }
        return best;
    }

    private static LocalDate dayOf(int year, int month, int day) {
        try {
            return LocalDate.of(year, month, day);
        } catch (DateTimeException e) {
            return null; // such as 30 February
        }
    }

    /**
     * Reads a time of the user-defined form.
     *
     * @return the position behind it; -1 if there is none
     */
    private int formatted(String line, int from) {
        if (rules.format() == null) {
            return -1;
        }
        ParsePosition position = new ParsePosition(from);
        try {
            TemporalAccessor parsed = rules.format().parser().parse(line, position);
            Instant moment = parsed.isSupported(ChronoField.INSTANT_SECONDS) ? Instant.from(parsed) : local(parsed);
            if (moment == null || Math.abs(moment.getEpochSecond()) > MOST_EPOCH_SECONDS) {
                return -1;
            }
            nanos = Times.epochNanos(moment);
            return position.getIndex();
        } catch (DateTimeException | IndexOutOfBoundsException e) {
            return -1; // another form may fit
        }
    }

    private Instant local(TemporalAccessor parsed) {
        LocalTime time = parsed.query(TemporalQueries.localTime());
        LocalDate day = parsed.query(TemporalQueries.localDate());
        boolean hasDay = parsed.isSupported(ChronoField.MONTH_OF_YEAR) && parsed.isSupported(ChronoField.DAY_OF_MONTH);
        if (day == null && hasDay && rules.near() != null) {
            isYearAssumed = true;
            int month = parsed.get(ChronoField.MONTH_OF_YEAR);
            day = closest(Times.instant(rules.near()), month, parsed.get(ChronoField.DAY_OF_MONTH));
        }
        return day == null
                ? null
                : day.atTime(time == null ? LocalTime.MIN : time).toInstant(ZoneOffset.UTC);
    }
}
