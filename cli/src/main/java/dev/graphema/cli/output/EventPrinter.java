package dev.graphema.cli.output;

import dev.graphema.condition.Literal;
import dev.graphema.event.Event;
import dev.graphema.format.Columns;
import dev.graphema.format.Format;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Locale;

/** Prints events one by one, for people or programs. */
public final class EventPrinter {
    /** The forms of events. */
    enum Form {
        text,
        json
    }

    private static final int FULL = 32 * 1024;

    private final Console console;
    private final Form form;
    private final Format format;
    private final Utf8Buffer buffer = new Utf8Buffer(2 * FULL);
    private LocalDate day;

    EventPrinter(Console console, Form form) {
        this.console = console;
        this.form = form;
        this.format =
                form == Form.json ? new JsonLines() : Columns.of(console.zone(), console.width(), console.paint());
    }

    /** Returns a condition that matches the event, and hardly any other. */
    public static String conditionOf(Event event) {
        String where = event.instance() != null
                ? "instance = " + Literal.written(event.instance()) + " and "
                : event.service() != null ? "service = " + Literal.written(event.service()) + " and " : "";
        return where
                + (event.sequence() != 0
                        ? "sequence = " + event.sequence()
                        : "time = " + Times.instant(event.epochNanos()) + " and message = "
                                + Literal.quoted(String.valueOf(event.message())));
    }

    void print(Event event) {
        if (form == Form.text) {
            day(event);
        }
        format.write(event, buffer);
        if (buffer.length() >= FULL) {
            flush();
        }
    }

    void flush() {
        console.print(buffer);
    }

    /** {@code Friday, 2026-05-15, times of Europe/Oslo}. */
    public static String day(long epochNanos, ZoneId zone) {
        LocalDate date = Times.instant(epochNanos).atZone(zone).toLocalDate();
        String name = date.getDayOfWeek().name();
        return name.charAt(0) + name.substring(1).toLowerCase(Locale.ROOT) + ", " + date + ", times of " + zone;
    }

    /** Columns show the time of day, so a line announces each new day. */
    private void day(Event event) {
        LocalDate date =
                Times.instant(event.epochNanos()).atZone(console.zone()).toLocalDate();
        if (!date.equals(day)) {
            day = date;
            console.paint().faint(buffer, "-- " + day(event.epochNanos(), console.zone()));
            buffer.ascii('\n');
        }
    }
}
