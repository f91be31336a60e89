package dev.graphema.format;

import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;

/** Times as people read them, in their own zone. Remembers the last second it wrote. For one thread. */
public final class ClockText {
    private static final long NANOS = 1_000_000_000L;
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm:ss");
    private static final DateTimeFormatter DATE_AND_TIME = DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm:ss");

    private final ZoneId zone;
    private final DateTimeFormatter form;
    private long writtenSecond = Long.MIN_VALUE;
    private String writtenText = "";

    private ClockText(ZoneId zone, DateTimeFormatter form) {
        this.zone = zone;
        this.form = form;
    }

    /** {@code 07:31:02.123} */
    public static ClockText timeOfDay(ZoneId zone) {
        return new ClockText(zone, TIME);
    }

    /** {@code 2026-05-15 07:31:02.123} */
    public static ClockText dateAndTime(ZoneId zone) {
        return new ClockText(zone, DATE_AND_TIME);
    }

    /** The number of characters that every time takes. */
    public int width() {
        return form == TIME ? 12 : 23;
    }

    public String text(long epochNanos) {
        long second = Math.floorDiv(epochNanos, NANOS);
        if (second != writtenSecond) {
            ZonedDateTime time = Instant.ofEpochSecond(second).atZone(zone);
            writtenText = LocalDateTime.from(time).format(form);
            writtenSecond = second;
        }
        long millis = Math.floorMod(epochNanos, NANOS) / 1_000_000;
        return writtenText + (millis < 10 ? ".00" : millis < 100 ? ".0" : ".") + millis;
    }
}
