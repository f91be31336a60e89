package dev.graphema.lines.json;

import dev.graphema.format.JsonMember;
import java.nio.charset.StandardCharsets;

/** The fixed positions of time and level in lines of {@link dev.graphema.format.JsonLines}. */
public final class LinePrefix {
    static final byte[] BEFORE_TIME = ("{\"" + JsonMember.TIME.text() + "\":\"").getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEHIND_TIME =
            ("Z\",\"" + JsonMember.LEVEL.text() + "\":\"").getBytes(StandardCharsets.US_ASCII);

    /** The position of the time. */
    static final int TIME_AT = BEFORE_TIME.length;

    /** The position of the name of the level. */
    static final int LEVEL_AT = BEFORE_TIME.length + JsonTime.LENGTH + BEHIND_TIME.length;

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

    /** Returns whether the line, of at least {@link #LEVEL_AT} bytes, begins with a valid time, and a level. */
    static boolean isTimed(byte[] bytes, int from, JsonTime time) {
        return hasLevel(bytes, from) && time.isAt(bytes, from + TIME_AT);
    }

    static boolean hasLevelBehindTime(byte[] bytes, int from) {
        return Bytes.areAt(BEHIND_TIME, bytes, from + TIME_AT + JsonTime.LENGTH, bytes.length);
    }

    /** Returns the time of the line that begins here, in nanoseconds since 1970; null if it is not Graphema JSON. */
    public static Long time(byte[] bytes, int from) {
        JsonTime time = new JsonTime();
        return isTimed(bytes, from, time) ? time.epochNanos() : null;
    }
}
