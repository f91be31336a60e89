package dev.graphema.format;

import dev.graphema.text.Utf8Buffer;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.zone.ZoneOffsetTransition;

/** Formats times in a time zone. Remembers the last second and its offset. For one thread. */
public final class ClockText {
    private static final long NANOS = 1_000_000_000L;
    private static final long DAY = 24 * 60 * 60;

    private final ZoneId zone;
    private final boolean hasDate;
    private long writtenSecond = Long.MIN_VALUE;
    private String writtenText = "";

    // From when until when the zone is that far ahead of UTC, in seconds; and the day that was written last.
    private long offsetFrom = Long.MAX_VALUE;
    private long offsetUntil = Long.MIN_VALUE;
    private int offset;
    private long writtenDay = Long.MIN_VALUE;
    private String writtenDate = "";

    private ClockText(ZoneId zone, boolean hasDate) {
        this.zone = zone;
        this.hasDate = hasDate;
    }

    /** {@code 07:31:02.123} */
    public static ClockText timeOfDay(ZoneId zone) {
        return new ClockText(zone, false);
    }

    /** {@code 2026-05-15 07:31:02.123} */
    public static ClockText dateAndTime(ZoneId zone) {
        return new ClockText(zone, true);
    }

    /** Returns the length of every formatted time. */
    public int width() {
        return hasDate ? 23 : 12;
    }

    /** Writes a time. */
    void write(long epochNanos, Utf8Buffer to) {
        to.ascii(second(epochNanos)).ascii('.').padded(millis(epochNanos), 3);
    }

    public String text(long epochNanos) {
        long millis = millis(epochNanos);
        return second(epochNanos) + (millis < 10 ? ".00" : millis < 100 ? ".0" : ".") + millis;
    }

    private static long millis(long epochNanos) {
        return Math.floorMod(epochNanos, NANOS) / 1_000_000;
    }

    /** Returns the text of a time without its fraction. */
    private String second(long epochNanos) {
        long second = Math.floorDiv(epochNanos, NANOS);
        if (second != writtenSecond) {
            long local = second + offset(second);
            int ofDay = (int) Math.floorMod(local, DAY);
            writtenText = (hasDate ? date(Math.floorDiv(local, DAY)) : "")
                    + twoDigits(ofDay / 3_600)
                    + ":"
                    + twoDigits(ofDay / 60 % 60)
                    + ":"
                    + twoDigits(ofDay % 60);
            writtenSecond = second;
        }
        return writtenText;
    }

    private int offset(long second) {
        if (second < offsetFrom || second >= offsetUntil) {
            Instant instant = Instant.ofEpochSecond(second);
            ZoneOffsetTransition next = zone.getRules().nextTransition(instant);
            offset = zone.getRules().getOffset(instant).getTotalSeconds();
            offsetFrom = second;
            offsetUntil = next == null ? Long.MAX_VALUE : next.toEpochSecond();
        }
        return offset;
    }

    private String date(long day) {
        if (day != writtenDay) {
            writtenDate = LocalDate.ofEpochDay(day) + " ";
            writtenDay = day;
        }
        return writtenDate;
    }

    private static String twoDigits(int number) {
        return (number < 10 ? "0" : "") + number;
    }
}
