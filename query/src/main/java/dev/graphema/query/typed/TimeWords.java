package dev.graphema.query.typed;

import dev.graphema.query.Window;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.Period;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Locale;

/**
 * Times and windows as text: {@code 2026-05-15T07:10}, {@code 07:10}, {@code yesterday 09:00}, {@code friday}, {@code
 * 2h ago}, {@code now}; ISO 8601 intervals: {@code 2026-05-15T07:10/PT40M}. Immutable.
 */
public final class TimeWords {
    /** The expected form of a time, for messages. */
    public static final String EXPECTED_MOMENT =
            "expected one such as 2026-05-15T07:10, 07:10, \"yesterday 09:00\", friday, \"2h ago\" or now";

    /** The expected form of an interval, for messages. */
    public static final String EXPECTED_INTERVAL =
            "expected two moments, or a moment and a duration, with / between, such as"
                    + " 2026-05-15T07:10/2026-05-15T07:50 or 2026-05-15T07:10/PT40M";

    private final ZoneId zone;
    private final Instant now;

    /** @param zone the time zone of times without an offset */
    public TimeWords(ZoneId zone, Instant now) {
        this.zone = zone;
        this.now = now;
    }

    /** Returns the present time, in nanoseconds since 1970. */
    long now() {
        return Times.epochNanos(now);
    }

    /** Parses a time in nanoseconds since 1970; null if it is none. A day is its first moment. */
    public Long moment(String text) {
        String trimmed = text.strip();
        Long exact = Times.parse(trimmed, zone);
        if (exact != null) {
            return exact;
        }
        String lower = trimmed.toLowerCase(Locale.ROOT);
        if (lower.equals("now")) {
            return Times.epochNanos(now);
        }
        if (lower.endsWith(" ago")) {
            Duration ago =
                    Durations.parse(lower.substring(0, lower.length() - 4).strip());
            return ago == null ? null : (Long) (Times.epochNanos(now) - ago.toNanos());
        }
        String[] words = lower.split("\\s+");
        LocalDate day = words.length > 2 ? null : day(words[0]);
        if (day == null) {
            LocalTime time = words.length == 1 ? time(words[0]) : null;
            return time == null ? null : (Long) at(today(), time);
        }
        LocalTime time = words.length == 1 ? LocalTime.MIDNIGHT : time(words[1]);
        return time == null ? null : (Long) at(day, time);
    }

    /** Parses an ISO 8601 interval; null if it is none. Its end is exclusive. */
    public Window interval(String text) {
        String[] parts = text.split("/", -1);
        if (parts.length != 2) {
            return null;
        }
        Long from = moment(parts[0]);
        Long to = moment(parts[1]);
        if (from == null && to != null) {
            from = moved(to, parts[0], -1);
        } else if (from != null && to == null) {
            to = moved(from, parts[1], 1);
        }
        return from == null || to == null || to <= from ? null : new Window(from, to - 1);
    }

    private Long moved(long from, String duration, int sign) {
        String upper = duration.strip().toUpperCase(Locale.ROOT);
        ZonedDateTime start = Times.instant(from).atZone(zone);
        try {
            int time = upper.indexOf('T');
            if (upper.startsWith("P") && time != 1) {
                Period days = Period.parse(time < 0 ? upper : upper.substring(0, time));
                start = sign < 0 ? start.minus(days) : start.plus(days);
            }
            if (time >= 0) {
                Duration rest = Duration.parse("P" + upper.substring(time));
                start = sign < 0 ? start.minus(rest) : start.plus(rest);
            }
            return upper.startsWith("P") ? (Long) Times.epochNanos(start.toInstant()) : null;
        } catch (DateTimeException e) {
            return null;
        }
    }

    private LocalDate day(String word) {
        if (word.equals("today")) {
            return today();
        }
        if (word.equals("yesterday")) {
            return today().minusDays(1);
        }
        DayOfWeek weekday = Arrays.stream(DayOfWeek.values())
                .filter(each -> word.length() >= 3
                        && each.name().toLowerCase(Locale.ROOT).startsWith(word))
                .findFirst()
                .orElse(null);
        if (weekday != null) {
            // The last one that there was; today when it is today.
            return today().minusDays(Math.floorMod(today().getDayOfWeek().getValue() - weekday.getValue(), 7));
        }
        try {
            return LocalDate.parse(word);
        } catch (DateTimeException e) {
            return null;
        }
    }

    private static LocalTime time(String word) {
        try {
            return LocalTime.parse(word.length() == 4 ? "0" + word : word);
        } catch (DateTimeException e) {
            return null;
        }
    }

    private LocalDate today() {
        return now.atZone(zone).toLocalDate();
    }

    private long at(LocalDate day, LocalTime time) {
        return Times.epochNanos(day.atTime(time).atZone(zone).toInstant());
    }
}
