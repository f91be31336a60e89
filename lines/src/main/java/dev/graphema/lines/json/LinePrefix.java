package dev.graphema.lines.json;

import dev.graphema.format.JsonMember;
import java.nio.charset.StandardCharsets;

/** The fixed positions of time and level in lines of {@link dev.graphema.format.JsonLines}. */
public final class LinePrefix {
    static final byte[] BEFORE_TIME = ("{\"" + JsonMember.TIME.text() + "\":\"").getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEHIND_TIME =
            ("Z\",\"" + JsonMember.LEVEL.text() + "\":\"").getBytes(StandardCharsets.US_ASCII);

    private static final String TIME_SHAPE = "0000-00-00T00:00:00.000000000";
    private static final int TIME_LENGTH = TIME_SHAPE.length();

    /** The position of the time. */
    static final int TIME_AT = BEFORE_TIME.length;

    /** The position of the name of the level. */
    static final int LEVEL_AT = BEFORE_TIME.length + TIME_LENGTH + BEHIND_TIME.length;

    /** The number of bytes at the begin of a line that contain its time, and identify Graphema JSON. */
    public static final int BYTES_WITH_TIME = LEVEL_AT + 1;

    private LinePrefix() {}

    /** Returns whether a line is Graphema JSON. */
    public static boolean isOwn(byte[] bytes, int from, int to) {
        return to - from > LEVEL_AT && hasLevel(bytes, from);
    }

    /**
     * Returns whether time and level are at their positions in the bytes from here on; there must be {@link #LEVEL_AT}
     * of them.
     */
    static boolean hasLevel(byte[] bytes, int from) {
        return Bytes.areAt(BEFORE_TIME, bytes, from, bytes.length) && hasLevelBehindTime(bytes, from);
    }

    static boolean hasLevelBehindTime(byte[] bytes, int from) {
        return Bytes.areAt(BEHIND_TIME, bytes, from + TIME_AT + TIME_LENGTH, bytes.length);
    }

    /** Returns the time of the line that begins here, in nanoseconds since 1970; null if it is not Graphema JSON. */
    public static Long time(byte[] bytes, int from) {
        PrefixTime time = new PrefixTime();
        return time.isIn(bytes, from) ? time.epochNanos() : null;
    }

    /** Returns whether a text of the form of a time is at its position. */
    static boolean isTime(byte[] bytes, int from) {
        for (int i = 0; i < TIME_LENGTH; i++) {
            byte b = bytes[from + TIME_AT + i];
            char shape = TIME_SHAPE.charAt(i);
            if (shape == '0' ? b < '0' || b > '9' : b != shape) {
                return false;
            }
        }
        return true;
    }
}
