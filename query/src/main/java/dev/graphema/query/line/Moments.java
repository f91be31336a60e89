package dev.graphema.query.line;

import dev.graphema.event.Times;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.temporal.ChronoField;
import java.util.List;
import java.util.Locale;

/**
 * Points in time as programs write them: RFC 3339 with any offset, with a blank in place of the T, with a comma before the fraction, with the name of a
 * zone behind; {@code 15/May/2026:07:31:02 +0100}; seconds, milliseconds, microseconds or nanoseconds since 1970, told apart by how many they are. A
 * text without an offset is taken to be UTC.
 */
public final class Moments {
    /** The year 5138 in seconds; 1973 in milliseconds. The other units lie as far apart. */
    private static final double MOST_SECONDS = 1e11;

    /** What few logs need is made when one does. */
    private static final class Forms {
        private static final List<DateTimeFormatter> WITH_OFFSET = List.of(
                new DateTimeFormatterBuilder()
                        .appendPattern("yyyy-MM-dd HH:mm:ss")
                        .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
                        .appendPattern("[ ]")
                        .optionalStart()
                        .appendOffset("+HH:MM", "Z")
                        .optionalEnd()
                        .optionalStart()
                        .appendOffset("+HHmm", "Z")
                        .optionalEnd()
                        .appendPattern("[z]")
                        .toFormatter(Locale.ENGLISH),
                DateTimeFormatter.ofPattern("dd/MMM/yyyy:HH:mm:ss XX", Locale.ENGLISH),
                DateTimeFormatter.RFC_1123_DATE_TIME);
    }

    private Moments() {}

    /** The moment in nanoseconds since 1970, or null when the text is none. */
    public static Long parse(String text) {
        String trimmed = text.strip();
        if (trimmed.length() < 8) {
            return null;
        }
        Long known = Times.parse(trimmed, ZoneOffset.UTC);
        if (known != null) {
            return known;
        }
        if (trimmed.charAt(0) >= '0' && trimmed.charAt(0) <= '9' && trimmed.matches("[0-9]{9,19}(\\.[0-9]{1,9})?")) {
            return ofNumber(new BigDecimal(trimmed));
        }
        return formatted(trimmed);
    }

    private static Long formatted(String text) {
        String plain = text.replace(',', '.');
        if (plain.length() > 10 && plain.charAt(10) == 'T') {
            plain = plain.substring(0, 10) + ' ' + plain.substring(11);
        }
        for (DateTimeFormatter format : Forms.WITH_OFFSET) {
            String input = format == DateTimeFormatter.RFC_1123_DATE_TIME ? text : plain;
            try {
                return Times.epochNanos(moment(format, input));
            } catch (DateTimeException e) {
                continue; // the next form may fit
            }
        }
        return null;
    }

    private static Instant moment(DateTimeFormatter format, String text) {
        var parsed = format.parseBest(text, ZonedDateTime::from, LocalDateTime::from);
        return parsed instanceof ZonedDateTime zoned
                ? zoned.toInstant()
                : ((LocalDateTime) parsed).toInstant(ZoneOffset.UTC);
    }

    /** The moment that a number means, or null when it can be none. */
    static Long ofNumber(BigDecimal number) {
        double size = number.doubleValue();
        if (size < 1e8 || size >= MOST_SECONDS * 1e9) {
            return null;
        }
        long perUnit = size < MOST_SECONDS
                ? 1_000_000_000L
                : size < MOST_SECONDS * 1e3 ? 1_000_000L : size < MOST_SECONDS * 1e6 ? 1_000L : 1L;
        return number.multiply(BigDecimal.valueOf(perUnit)).longValue();
    }
}
