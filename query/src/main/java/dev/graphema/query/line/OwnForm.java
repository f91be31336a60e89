package dev.graphema.query.line;

import java.nio.charset.StandardCharsets;

/**
 * Where time and level stand in a line that {@link dev.graphema.format.JsonLines} wrote: always at the same place, so that they are known without
 * reading the line.
 */
public final class OwnForm {
    static final byte[] BEFORE_TIME = "{\"time\":\"".getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEHIND_TIME = "Z\",\"level\":\"".getBytes(StandardCharsets.US_ASCII);

    // The same as words, of which the second has some of the first one's bytes again.
    private static final long FIRST_BEFORE_TIME = Bytes.word(BEFORE_TIME, 0);
    private static final long LAST_BEFORE_TIME = Bytes.word(BEFORE_TIME, BEFORE_TIME.length - Long.BYTES);
    private static final long FIRST_BEHIND_TIME = Bytes.word(BEHIND_TIME, 0);
    private static final long LAST_BEHIND_TIME = Bytes.word(BEHIND_TIME, BEHIND_TIME.length - Long.BYTES);

    private static final String TIME_SHAPE = "0000-00-00T00:00:00.000000000";
    private static final int TIME_LENGTH = TIME_SHAPE.length();

    // The shape, eight bytes at a time: where they begin, what they are, and which of them are no digits.
    private static final int[] SHAPE_AT = {0, 8, 16, TIME_LENGTH - Long.BYTES};
    private static final long[] SHAPE = new long[SHAPE_AT.length];
    private static final long[] MARKS = new long[SHAPE_AT.length];
    private static final long ZEROS = Bytes.ONES * '0';

    static {
        byte[] shape = TIME_SHAPE.getBytes(StandardCharsets.US_ASCII);
        for (int i = 0; i < SHAPE_AT.length; i++) {
            SHAPE[i] = Bytes.word(shape, SHAPE_AT[i]);
            MARKS[i] = marks(SHAPE[i]);
        }
    }

    /** Where the time begins. */
    static final int TIME_AT = BEFORE_TIME.length;

    /** Where the level's name begins. */
    static final int LEVEL_AT = BEFORE_TIME.length + TIME_LENGTH + BEHIND_TIME.length;

    /** So many bytes from the beginning of a line hold its time, and tell whether it is in our own form. */
    public static final int BYTES_WITH_TIME = LEVEL_AT + 1;

    private OwnForm() {}

    /** Whether time and level stand at their places in the bytes from there on; there have to be {@value #LEVEL_AT} of them. */
    static boolean hasLevel(byte[] bytes, int from) {
        return Bytes.word(bytes, from) == FIRST_BEFORE_TIME
                && Bytes.word(bytes, from + TIME_AT - Long.BYTES) == LAST_BEFORE_TIME
                && hasLevelBehindTime(bytes, from);
    }

    static boolean hasLevelBehindTime(byte[] bytes, int from) {
        return Bytes.word(bytes, from + TIME_AT + TIME_LENGTH) == FIRST_BEHIND_TIME
                && Bytes.word(bytes, from + LEVEL_AT - Long.BYTES) == LAST_BEHIND_TIME;
    }

    /** The time of the line that begins there, in nanoseconds since 1970; null when it is not in our own form. */
    public static Long time(byte[] bytes, int from) {
        OwnTime time = new OwnTime();
        return time.isIn(bytes, from) ? time.epochNanos() : null;
    }

    /** Whether what stands in the time's place has the shape of one. */
    static boolean isTime(byte[] bytes, int from) {
        for (int i = 0; i < SHAPE_AT.length; i++) {
            long word = Bytes.word(bytes, from + TIME_AT + SHAPE_AT[i]);
            if (((word ^ SHAPE[i]) & MARKS[i]) != 0 || !Bytes.areDigits(word & ~MARKS[i] | ZEROS & MARKS[i])) {
                return false;
            }
        }
        return true;
    }

    /** Eight bytes in which those are set that hold no digit. */
    private static long marks(long shape) {
        long marks = 0;
        for (int i = 0; i < Long.SIZE; i += Byte.SIZE) {
            marks |= (shape >>> i & 0xFF) == '0' ? 0 : 0xFFL << i;
        }
        return marks;
    }
}
