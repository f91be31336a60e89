package dev.graphema.lines.form;

import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.DateTimeFormatterBuilder;
import java.time.format.ResolverStyle;
import java.time.temporal.ChronoField;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * Parses times of other programs: RFC 3339 with any offset, with a space instead of the T, a comma before the fraction,
 * or the name of a zone, and in the basic form of ISO 8601; {@code 15/May/2026:07:31:02 +0100}; seconds, milliseconds,
 * microseconds or nanoseconds since 1970, distinguished by magnitude. The default offset is UTC. More than nine digits
 * of a fraction are cut, and a leap second is the following second.
 *
 * <p>The name of a zone denotes a fixed offset, independent of the date: {@code EST} is always five hours behind UTC.
 * Names of several zones are ambiguous ({@link #ambiguousZone}).
 */
public final class Moments {
    /** The year 5138 in seconds, and 1973 in milliseconds. The other units have the same distance. */
    private static final double MOST_SECONDS = 1e11;

    private static final Map<String, String> ZONES = Map.ofEntries(
            Map.entry("UTC", "+00:00"),
            Map.entry("GMT", "+00:00"),
            Map.entry("UT", "+00:00"),
            Map.entry("WET", "+00:00"),
            Map.entry("WEST", "+01:00"),
            Map.entry("BST", "+01:00"),
            Map.entry("CET", "+01:00"),
            Map.entry("CEST", "+02:00"),
            Map.entry("EET", "+02:00"),
            Map.entry("EEST", "+03:00"),
            Map.entry("MSK", "+03:00"),
            Map.entry("SAST", "+02:00"),
            Map.entry("JST", "+09:00"),
            Map.entry("KST", "+09:00"),
            Map.entry("AWST", "+08:00"),
            Map.entry("ACST", "+09:30"),
            Map.entry("ACDT", "+10:30"),
            Map.entry("AEST", "+10:00"),
            Map.entry("AEDT", "+11:00"),
            Map.entry("NZST", "+12:00"),
            Map.entry("NZDT", "+13:00"),
            Map.entry("EST", "-05:00"),
            Map.entry("EDT", "-04:00"),
            Map.entry("CDT", "-05:00"),
            Map.entry("MST", "-07:00"),
            Map.entry("MDT", "-06:00"),
            Map.entry("PST", "-08:00"),
            Map.entry("PDT", "-07:00"),
            Map.entry("AKST", "-09:00"),
            Map.entry("AKDT", "-08:00"),
            Map.entry("HST", "-10:00"));

    /** Created only for logs that need it. */
    private static final class Forms {
        private static final Pattern BASIC = Pattern.compile(
                "(\\d{4})(\\d{2})(\\d{2})[T ]?(\\d{2})(\\d{2})(\\d{2})([.,]\\d+)?(Z|[+-]\\d{2}:?\\d{2})?");
        private static final Pattern ZONE = Pattern.compile("(.*[0-9]) ?([A-Z]{2,5})");
        private static final Pattern LONG_FRACTION = Pattern.compile("([.,]\\d{9})\\d+");
        private static final Pattern LEAP_SECOND = Pattern.compile("(\\d{2}:\\d{2}):60");

        private static final List<DateTimeFormatter> WITH_OFFSET = List.of(
                new DateTimeFormatterBuilder()
                        .appendPattern("uuuu-MM-dd HH:mm:ss")
                        .appendFraction(ChronoField.NANO_OF_SECOND, 0, 9, true)
                        .appendPattern("[ ]")
                        .optionalStart()
                        .appendOffset("+HH:MM", "Z")
                        .optionalEnd()
                        .optionalStart()
                        .appendOffset("+HHmm", "Z")
                        .optionalEnd()
                        .toFormatter(Locale.ENGLISH)
                        .withResolverStyle(ResolverStyle.STRICT),
                DateTimeFormatter.ofPattern("dd/MMM/uuuu:HH:mm:ss XX", Locale.ENGLISH)
                        .withResolverStyle(ResolverStyle.STRICT),
                DateTimeFormatter.RFC_1123_DATE_TIME);
    }

    private Moments() {}

    /** Parses a time in nanoseconds since 1970; null if the text is none, or outside of the years 1677 to 2262. */
    public static Long parse(String text) {
        String trimmed = text.strip();
        if (trimmed.length() < 8) {
            return null;
        }
        Long known = Times.parse(trimmed, ZoneOffset.UTC);
        if (known == null
                && trimmed.charAt(0) >= '0'
                && trimmed.charAt(0) <= '9'
                && trimmed.matches("[0-9]{9,19}(\\.[0-9]{1,30})?")) {
            known = ofNumber(new BigDecimal(trimmed));
        }
        if (known == null) {
            known = formatted(trimmed);
        }
        return known == null || Times.isCutOff(known) ? null : known;
    }

    /** Returns the ambiguous name of a zone after a time; or null. */
    static String ambiguousZone(String text) {
        Matcher zone = Forms.ZONE.matcher(text.strip());
        return zone.matches()
                        && !ZONES.containsKey(zone.group(2))
                        && !zone.group(2).equals("Z")
                ? zone.group(2)
                : null;
    }

    private static Long formatted(String text) {
        String plain = extended(text);
        boolean isLeapSecond = Forms.LEAP_SECOND.matcher(plain).find();
        if (isLeapSecond) {
            plain = Forms.LEAP_SECOND.matcher(plain).replaceFirst("$1:59");
        }
        for (DateTimeFormatter format : Forms.WITH_OFFSET) {
            String input = format == DateTimeFormatter.RFC_1123_DATE_TIME ? text : plain;
            try {
                return Times.epochNanos(moment(format, input).plusSeconds(isLeapSecond ? 1 : 0));
            } catch (DateTimeException e) {
                continue; // the next form may fit
            }
        }
        return null;
    }

    /** Returns the text in the extended form of ISO 8601 with a space between date and time, if possible. */
    private static String extended(String text) {
        String plain = text.replace(',', '.');
        Matcher zone = Forms.ZONE.matcher(plain);
        String offset = zone.matches() ? ZONES.get(zone.group(2)) : null;
        if (offset != null) {
            plain = zone.group(1) + offset;
        }
        Matcher basic = Forms.BASIC.matcher(plain);
        if (basic.matches()) {
            plain = basic.group(1) + "-" + basic.group(2) + "-" + basic.group(3) + " " + basic.group(4) + ":"
                    + basic.group(5) + ":" + basic.group(6) + orNothing(basic.group(7)) + orNothing(basic.group(8));
        }
        if (plain.length() > 10 && (plain.charAt(10) == 'T' || plain.charAt(10) == 't')) {
            plain = plain.substring(0, 10) + ' ' + plain.substring(11);
        }
        return Forms.LONG_FRACTION.matcher(plain).replaceFirst("$1");
    }

    private static String orNothing(String group) {
        return group == null ? "" : group;
    }

    private static Instant moment(DateTimeFormatter format, String text) {
        var parsed = format.parseBest(text, ZonedDateTime::from, LocalDateTime::from);
        return parsed instanceof ZonedDateTime zoned
                ? zoned.toInstant()
                : ((LocalDateTime) parsed).toInstant(ZoneOffset.UTC);
    }

    /** Returns the time of a number, or null. */
    static Long ofNumber(BigDecimal number) {
        double size = number.doubleValue();
        if (size < 0 || size >= MOST_SECONDS * 1e9) {
            return null;
        }
        long perUnit = size < MOST_SECONDS
                ? 1_000_000_000L
                : size < MOST_SECONDS * 1e3 ? 1_000_000L : size < MOST_SECONDS * 1e6 ? 1_000L : 1L;
        BigDecimal nanos = number.multiply(BigDecimal.valueOf(perUnit));
        return nanos.compareTo(BigDecimal.valueOf(Long.MAX_VALUE)) < 0 ? nanos.longValue() : null;
    }
}
