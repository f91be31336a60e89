package dev.graphema.query.line;

import dev.graphema.event.Times;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;

/**
 * Where time and level stand in a line that {@link dev.graphema.format.JsonLines} wrote: always at the same place, so that they are known without
 * reading the line.
 */
public final class OwnForm {
    private static final byte[] BEFORE_TIME = "{\"time\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEHIND_TIME = "Z\",\"level\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final String TIME_SHAPE = "0000-00-00T00:00:00.000000000";
    private static final int TIME_LENGTH = TIME_SHAPE.length();

    /** Where the time begins. */
    static final int TIME_AT = BEFORE_TIME.length;

    /** Where the comma behind the time stands. */
    static final int TIME_END = TIME_AT + TIME_LENGTH + 2;

    /** Where the level's name begins. */
    static final int LEVEL_AT = BEFORE_TIME.length + TIME_LENGTH + BEHIND_TIME.length;

    /** So many bytes from the beginning of a line hold its time, and tell whether it is in our own form. */
    public static final int BYTES_WITH_TIME = LEVEL_AT + 1;

    private OwnForm() {}

    /** Whether time and level stand at their places in the bytes from there on; there have to be {@value #LEVEL_AT} of them. */
    static boolean hasLevel(byte[] bytes, int from) {
        return matches(bytes, from, BEFORE_TIME)
                && matches(bytes, from + BEFORE_TIME.length + TIME_LENGTH, BEHIND_TIME);
    }

    /** The time of the line that begins there, in nanoseconds since 1970; null when it is not in our own form. */
    public static Long time(byte[] bytes, int from) {
        if (!hasLevel(bytes, from) || !hasTime(bytes, from)) {
            return null;
        }
        return Times.parse(
                new String(bytes, from + TIME_AT, TIME_LENGTH + 1, StandardCharsets.ISO_8859_1), ZoneOffset.UTC);
    }

    /** Whether what stands in the time's place has the shape of one. */
    static boolean hasTime(byte[] bytes, int from) {
        for (int i = 0; i < TIME_LENGTH; i++) {
            char shape = TIME_SHAPE.charAt(i);
            byte b = bytes[from + TIME_AT + i];
            if (shape == '0' ? b < '0' || b > '9' : b != shape) {
                return false;
            }
        }
        return true;
    }

    private static boolean matches(byte[] bytes, int at, byte[] text) {
        for (int i = 0; i < text.length; i++) {
            if (bytes[at + i] != text[i]) {
                return false;
            }
        }
        return true;
    }
}
