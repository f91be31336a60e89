package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.SpanId;

/**
 * One JSON object (RFC 8259) on one line for each event, in UTF-8:
 *
 * <pre>{@code
 * {"time":"2026-05-15T06:31:02.123456789Z","level":"error","service":"deck","instance":"deck-2",
 *  "logger":"skerry.deck.Lanes","message":"lane not free","trace":"4bf9…","span":"00f0…","parent":"b7ad…",
 *  "thread":"deck-3","sequence":812,"weight":20,"fields":{"lane":"A3","waited":"PT0.25S"},
 *  "fingerprint":"91c0…","failure":{"type":"…","message":"…","frames":["…"],"shared":3,"omitted":9,"cause":{…},"suppressed":[{…}]}}
 * }</pre>
 *
 * <p>What an event does not have is left out; the weight, too, when it is 1. {@code "id":"9f2c…-812"} is told where a line may
 * come twice, and {@code "repeat":true} in one that may have. Times are RFC 3339 in UTC, durations ISO
 * 8601 ({@code PT0.25S}). Names and values of fields stand below {@code fields}, so that no field can pass for an
 * attribute.
 */
public final class JsonLines implements Format {
    private final Rfc3339 times = new Rfc3339();
    private final JsonFields fields = new JsonFields();
    private final RecurringTexts texts = new RecurringTexts();
    private final boolean tellsId;

    /** Writes lines as described above. */
    public JsonLines() {
        this(false);
    }

    /** @param tellsId whether events contain their id, by which readers recognise duplicates */
    public JsonLines(boolean tellsId) {
        this.tellsId = tellsId;
    }

    @Override
    public void write(Event event, Utf8Buffer to) {
        if (event.hasTime()) {
            to.ascii("{\"time\":\"");
            times.write(event.epochNanos(), to);
            to.ascii('"');
        } else {
            to.ascii("{\"time\":null");
        }
        if (event.level() != null) {
            to.ascii(",\"level\":\"").ascii(event.level().text()).ascii('"');
        }
        text(",\"service\":", event.service(), to);
        text(",\"instance\":", event.instance(), to);
        text(",\"logger\":", event.logger(), to);
        text(",\"message\":", event.message(), to);
        if (event.trace() != null) {
            to.ascii(",\"trace\":\"")
                    .hex(event.trace().high())
                    .hex(event.trace().low())
                    .ascii('"');
        }
        span(",\"span\":\"", event.span(), to);
        span(",\"parent\":\"", event.parent(), to);
        text(",\"thread\":", event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(",\"sequence\":").number(event.sequence());
        }
        if (tellsId && event.id() != null) {
            to.ascii(",\"id\":\"")
                    .ascii(event.run())
                    .ascii('-')
                    .number(event.sequence())
                    .ascii('"');
        }
        if (event.repeat()) {
            to.ascii(",\"repeat\":true");
        }
        if (event.held()) {
            to.ascii(",\"held\":true");
        }
        if (event.weight() != 1) {
            to.ascii(",\"weight\":").number(event.weight());
        }
        if (!event.fields().isEmpty()) {
            to.ascii(",\"fields\":");
            fields.write(event.fields(), to);
        }
        if (event.failure() != null) {
            to.ascii(",\"fingerprint\":\"").ascii(event.failure().fingerprint()).ascii("\",\"failure\":");
            JsonFailure.write(event.failure(), to);
        }
        to.ascii("}\n");
    }

    private void text(String name, String value, Utf8Buffer to) {
        if (value != null) {
            to.ascii(name);
            texts.write(value, to);
        }
    }

    private static void span(String name, SpanId span, Utf8Buffer to) {
        if (span != null) {
            to.ascii(name).hex(span.bits()).ascii('"');
        }
    }
}
