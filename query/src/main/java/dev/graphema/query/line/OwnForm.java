package dev.graphema.query.line;

import dev.graphema.event.Times;
import java.nio.charset.StandardCharsets;

/**
 * Where time and level stand in a line that {@link dev.graphema.format.JsonLines} wrote: always at the same place, so that they are known without
 * reading the line.
 */
public final class OwnForm {
    private static final byte[] BEFORE_TIME = "{\"time\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEHIND_TIME = "Z\",\"level\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final int TIME_LENGTH = "2026-05-15T06:31:02.123456789".length();

    /** Where the level's name begins. */
    static final int LEVEL_AT = BEFORE_TIME.length + TIME_LENGTH + BEHIND_TIME.length;

    private OwnForm() {}

    /** Whether time and level stand at their places in the bytes from there on; there have to be {@value #LEVEL_AT} of them. */
    static boolean hasLevel(byte[] bytes, int from) {
        return matches(bytes, from, BEFORE_TIME)
                && matches(bytes, from + BEFORE_TIME.length + TIME_LENGTH, BEHIND_TIME);
    }

    /** The time of the line, in nanoseconds since 1970; null when it is not in our own form. */
    public static Long time(byte[] bytes, int from, int to) {
        if (to - from <= LEVEL_AT || !hasLevel(bytes, from)) {
            return null;
        }
        String text = new String(bytes, from + BEFORE_TIME.length, TIME_LENGTH + 1, StandardCharsets.ISO_8859_1);
        return Times.parse(text, java.time.ZoneOffset.UTC);
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
