package dev.graphema.condition;

import dev.graphema.event.Decimals;
import dev.graphema.event.Durations;
import dev.graphema.event.Level;
import dev.graphema.event.Sizes;
import dev.graphema.event.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneId;
import java.util.function.Supplier;

/**
 * A value as it stands in a condition. What it is follows from how it is written: {@code 250} is a number, {@code 250ms} a
 * duration, {@code 4KB} a size (a number of bytes, in steps of 1024), {@code 2026-05-15T07:31:02Z} a time, a word or a
 * quoted text a text. Behind the attribute level, a level's name is a level.
 *
 * @param source the literal as it was written, without quotes
 * @param quoted whether it stood in quotes, and so is a text whatever it looks like
 * @param value a String, BigDecimal, Duration, Level, or a Long of nanoseconds since 1970 for a time
 */
public record Literal(String source, boolean quoted, Object value) {
    /** A text, as it stands in quotes. */
    public static Literal of(String text) {
        return new Literal(text, true, text);
    }

    static Literal level(Level level) {
        return new Literal(level.text(), false, level);
    }

    /** The literal that a word means. Local times are those of the zone. */
    static Literal word(String word, Supplier<ZoneId> zone) {
        char first = word.charAt(0);
        boolean startsLikeNumber = first >= '0' && first <= '9' || first == '-' || first == '.';
        Object value = startsLikeNumber ? numeric(word, zone) : null;
        return new Literal(word, false, value == null ? word : value);
    }

    BigDecimal number() {
        return value instanceof BigDecimal number ? number : null;
    }

    Duration duration() {
        return value instanceof Duration duration ? duration : null;
    }

    /** Nanoseconds since 1970, or null when it is no time. */
    Long time() {
        return value instanceof Long time ? time : null;
    }

    private static Object numeric(String word, Supplier<ZoneId> zone) {
        BigDecimal number = Decimals.parse(word);
        if (number != null) {
            return number;
        }
        Duration duration = Durations.parse(word);
        if (duration != null) {
            return duration;
        }
        BigDecimal size = Sizes.parse(word);
        return size != null ? size : Times.parse(word, zone);
    }

    /** The literal as a condition has it. */
    @Override
    public String toString() {
        return quoted ? quoted(source) : source;
    }

    /** A value's text as a condition has it: a number or a plain word as it is, anything else in quotes. */
    public static String written(String value) {
        boolean isPlain = !value.isEmpty();
        for (int i = 0; i < value.length() && isPlain; i++) {
            char c = value.charAt(i);
            isPlain = c < 0x80 && (Character.isLetterOrDigit(c) || "_./-".indexOf(c) >= 0);
        }
        return isPlain ? value : quoted(value);
    }

    /** The text in quotes, as a condition has it. */
    public static String quoted(String text) {
        return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }
}
