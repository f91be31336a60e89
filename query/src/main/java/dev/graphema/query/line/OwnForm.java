package dev.graphema.query.line;

import java.nio.charset.StandardCharsets;

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

    private OwnForm() {}

    /** Whether time and level stand at their places in the bytes from there on; there have to be {@value #LEVEL_AT} of them. */
    static boolean hasLevel(byte[] bytes, int from) {
        return matches(bytes, from, BEFORE_TIME)
                && matches(bytes, from + BEFORE_TIME.length + TIME_LENGTH, BEHIND_TIME);
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
