package dev.graphema.format;

import dev.graphema.text.Digits;
import dev.graphema.text.Utf8Buffer;

/**
 * Formats times in RFC 3339 in UTC with nine digits of a fraction, so that they sort as text. Remembers the last
 * second, because most events are in the same one. For one thread.
 */
public final class Rfc3339 {
    private static final long NANOS = 1_000_000_000L;

    private final Utf8Buffer second = new Utf8Buffer(24);
    private long writtenSecond = Long.MIN_VALUE;
    private byte[] writtenText = {};

    /** Writes nine digits of a fraction. */
    void write(long epochNanos, Utf8Buffer to) {
        second(epochNanos, to).padded(Math.floorMod(epochNanos, NANOS), 9).ascii('Z');
    }

    /** Writes six digits of a fraction, the most in RFC 5424. */
    void writeMicros(long epochNanos, Utf8Buffer to) {
        second(epochNanos, to)
                .padded(Math.floorMod(epochNanos, NANOS) / 1_000, 6)
                .ascii('Z');
    }

    /**
     * Writes nine digits of a fraction into an array with enough room.
     *
     * @return the index behind the time
     */
    public int write(long epochNanos, byte[] to, int at) {
        byte[] text = second(epochNanos);
        System.arraycopy(text, 0, to, at, text.length);
        int end = Digits.padded(Math.floorMod(epochNanos, NANOS), 9, to, at + text.length);
        to[end] = 'Z';
        return end + 1;
    }

    private Utf8Buffer second(long epochNanos, Utf8Buffer to) {
        byte[] text = second(epochNanos);
        return to.bytes(text, 0, text.length);
    }

    private byte[] second(long epochNanos) {
        long epochSecond = Math.floorDiv(epochNanos, NANOS);
        if (epochSecond != writtenSecond) {
            writtenText = dateAndTime(epochSecond);
            writtenSecond = epochSecond;
        }
        return writtenText;
    }

    private byte[] dateAndTime(long epochSecond) {
        long day = Math.floorDiv(epochSecond, 86_400);
        int secondOfDay = (int) Math.floorMod(epochSecond, 86_400L);
        java.time.LocalDate date = java.time.LocalDate.ofEpochDay(day);
        second.clear();
        second.padded(date.getYear(), 4)
                .ascii('-')
                .padded(date.getMonthValue(), 2)
                .ascii('-');
        second.padded(date.getDayOfMonth(), 2)
                .ascii('T')
                .padded(secondOfDay / 3_600, 2)
                .ascii(':');
        second.padded(secondOfDay / 60 % 60, 2).ascii(':').padded(secondOfDay % 60, 2);
        return second.ascii('.').copy(0);
    }
}
