package dev.graphema.format;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;

/** Times as people read them, in their own zone. Remembers the last second it wrote. For one thread. */
public final class ClockText {
    private static final long NANOS = 1_000_000_000L;

    private final ZoneId zone;
    private final boolean hasDate;
    private long writtenSecond = Long.MIN_VALUE;
    private String writtenText = "";

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

    /** The number of characters that every time takes. */
    public int width() {
        return hasDate ? 23 : 12;
    }

    public String text(long epochNanos) {
        long second = Math.floorDiv(epochNanos, NANOS);
        if (second != writtenSecond) {
            LocalDateTime time = LocalDateTime.ofInstant(Instant.ofEpochSecond(second), zone);
            writtenText = (hasDate ? time.toLocalDate() + " " : "")
                    + twoDigits(time.getHour())
                    + ":"
                    + twoDigits(time.getMinute())
                    + ":"
                    + twoDigits(time.getSecond());
            writtenSecond = second;
        }
        long millis = Math.floorMod(epochNanos, NANOS) / 1_000_000;
        return writtenText + (millis < 10 ? ".00" : millis < 100 ? ".0" : ".") + millis;
    }

    private static String twoDigits(int number) {
        return (number < 10 ? "0" : "") + number;
    }
}
