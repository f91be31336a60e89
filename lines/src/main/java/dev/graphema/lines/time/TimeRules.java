package dev.graphema.lines.time;

import java.time.DateTimeException;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;

/**
 * What is known of the times in a log, in addition to the usual forms. Immutable.
 *
 * @param near a time near those of the log, in nanoseconds since 1970, such as that of the last modification of the
 *     file: times without a year are in the year in which they are closest to it; null if unknown, so that a time
 *     without a year is none
 * @param order the order of day and month in dates such as {@code 11/12/2026}; null if unknown, so that only dates in
 *     which one of them is above 12 are dates
 * @param zones the offsets of names of zones that are unknown or ambiguous
 * @param format a user-defined form of times, which is tried first; null for none
 */
public record TimeRules(Long near, DateOrder order, Map<String, ZoneOffset> zones, Format format) {
    /** Nothing is known. */
    public static final TimeRules USUAL = new TimeRules(null, null, Map.of(), null);

    public TimeRules {
        zones = Map.copyOf(zones);
    }

    /**
     * A user-defined form.
     *
     * @param pattern a pattern of {@link DateTimeFormatter}, such as {@code yy/MM/dd HH:mm:ss}
     * @param parser parses it
     */
    public record Format(String pattern, DateTimeFormatter parser) {
        /** @throws IllegalArgumentException if the pattern is invalid */
        public static Format of(String pattern) {
            try {
                return new Format(pattern, DateTimeFormatter.ofPattern(pattern, Locale.ENGLISH));
            } catch (IllegalArgumentException e) {
                throw new IllegalArgumentException(
                        "\"" + pattern + "\" is not a valid form of times, such as \"yy/MM/dd HH:mm:ss\": "
                                + e.getMessage(),
                        e);
            }
        }

        @Override
        public boolean equals(Object other) {
            return other instanceof Format format && format.pattern.equals(pattern);
        }

        @Override
        public int hashCode() {
            return pattern.hashCode();
        }
    }

    /** Returns the rules with a time near those of the log. */
    public TimeRules near(Long epochNanos) {
        return new TimeRules(epochNanos, order, zones, format);
    }

    /** Returns the rules with an order of day and month. */
    public TimeRules order(DateOrder order) {
        return new TimeRules(near, order, zones, format);
    }

    /**
     * Returns the rules with a user-defined form.
     *
     * @throws IllegalArgumentException if it is invalid
     */
    public TimeRules format(String pattern) {
        return new TimeRules(near, order, zones, Format.of(pattern));
    }

    /**
     * Returns the rules with offsets of zones such as {@code IST=+05:30,CST=-06:00}.
     *
     * @throws IllegalArgumentException if they are invalid
     */
    public TimeRules zones(String text) {
        Map<String, ZoneOffset> all = new LinkedHashMap<>(zones);
        for (String part : text.split(",")) {
            String[] sides = part.strip().split("=", -1);
            try {
                all.put(sides[0].strip(), ZoneOffset.of(sides[1].strip()));
            } catch (DateTimeException | ArrayIndexOutOfBoundsException e) {
                throw new IllegalArgumentException(
                        "\"" + part.strip() + "\" is not a valid zone: expected a name and its offset, such as"
                                + " IST=+05:30",
                        e);
            }
        }
        return new TimeRules(near, order, all, format);
    }

    /** Returns the rules with what others define beyond them. */
    public TimeRules or(TimeRules other) {
        Map<String, ZoneOffset> all = new LinkedHashMap<>(other.zones);
        all.putAll(zones);
        return new TimeRules(
                near == null ? other.near : near,
                order == null ? other.order : order,
                all,
                format == null ? other.format : format);
    }

    /** Returns the offset of a name of a zone; null if it is unknown or ambiguous. */
    ZoneOffset offset(String name) {
        ZoneOffset given = zones.get(name);
        return given == null ? Zones.offset(Objects.requireNonNull(name)) : given;
    }
}
