package dev.graphema.condition;

import dev.graphema.event.Level;
import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Sizes;
import dev.graphema.text.Times;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneId;
import java.util.function.Supplier;

/**
 * A value in a condition. Its type follows from its form: {@code 250} is a number, {@code 250ms} a duration, {@code
 * 4KB} a size (a number of bytes, with units that are multiples of 1024), {@code 2026-05-15T07:31:02Z} a time, and a
 * word or a quoted text a text. After the attribute {@code level}, it is a level.
 *
 * @param source the text of the literal, without quotes
 * @param quoted whether it is quoted, and so a text
 * @param value a String, BigDecimal, Duration, Level, or a Long of nanoseconds since 1970 for a time
 */
public record Literal(String source, boolean quoted, Object value) {
    /** Returns the literal of a quoted text. */
    public static Literal of(String text) {
        return new Literal(text, true, text);
    }

    static Literal level(Level level) {
        return new Literal(level.text(), false, level);
    }

    /** Returns the literal of a word. Local times are in the zone. */
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

    /** Returns nanoseconds since 1970, or null if this is not a time. */
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

    /** Returns the literal in the condition language. */
    @Override
    public String toString() {
        return quoted ? quoted(source) : source;
    }

    /** Returns a text in the condition language: numbers and plain words unchanged, others in quotes. */
    public static String written(String value) {
        boolean isPlain = !value.isEmpty();
        for (int i = 0; i < value.length() && isPlain; i++) {
            char c = value.charAt(i);
            isPlain = c < 0x80 && (Character.isLetterOrDigit(c) || "_./-".indexOf(c) >= 0);
        }
        return isPlain ? value : quoted(value);
    }

    /** Returns a text in quotes, in the condition language. */
    public static String quoted(String text) {
        return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
    }
}
