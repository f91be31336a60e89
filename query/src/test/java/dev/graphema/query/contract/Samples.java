package dev.graphema.query.contract;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;

/** Events for tests, and their lines. */
public final class Samples {
    public static final long START = Times.epochNanos(Instant.parse("2026-05-15T06:00:00Z"));
    public static final TraceId TRACE = TraceId.parse("4bf92f3577b34da6a3ce929d0e0e4736");

    private Samples() {}

    /** An event a number of milliseconds after the start. */
    public static Draft event(long millis, String message) {
        return new Draft()
                .time(START + millis * 1_000_000)
                .level(Level.INFO)
                .logger("skerry.deck")
                .message(message);
    }

    /** An event of a span of the one trace; 0 means no parent. */
    public static Draft event(long millis, String message, long span, long parent) {
        return event(millis, message).trace(TRACE, new SpanId(span), parent == 0 ? null : new SpanId(parent));
    }

    /** Writes events as lines of a file, whose folder is created. */
    public static Path write(Path file, Draft... events) throws IOException {
        Files.createDirectories(file.getParent());
        return Files.writeString(file, text(events));
    }

    public static String text(Draft... events) {
        Utf8Buffer buffer = new Utf8Buffer(1024);
        for (Draft event : events) {
            new JsonLines().write(event.finish(), buffer);
        }
        return buffer.toString();
    }

    public static String text(Event event) {
        Utf8Buffer buffer = new Utf8Buffer(1024);
        new JsonLines().write(event, buffer);
        return buffer.toString();
    }
}
