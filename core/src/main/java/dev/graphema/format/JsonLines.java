package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.SpanId;
import dev.graphema.text.Utf8Buffer;

/**
 * Writes one JSON object (RFC 8259) per line, in UTF-8, with the members of {@link JsonMember} in their order:
 *
 * <pre>{@code
 * {"time":"2026-05-15T06:31:02.123456789Z","level":"error","service":"deck","instance":"deck-2",
 *  "logger":"skerry.deck.Lanes","message":"lane not free","trace":"4bf9…","span":"00f0…","parent":"b7ad…",
 *  "thread":"deck-3","sequence":812,"weight":20,"fields":{"lane":"A3","waited":"PT0.25S"},
 *  "fingerprint":"91c0…","failure":{"type":"…","message":"…","frames":["…"],"shared":3,"omitted":9,"cause":{…},"suppressed":[{…}]}}
 * }</pre>
 *
 * <p>Values that an event does not have are omitted, and a weight of 1. The id is written only if requested, and {@code
 * "repeat":true} only for an event that may have been written before. Times are RFC 3339 in UTC, durations ISO 8601 ({@code
 * PT0.25S}). Fields are below {@code fields}, so that no field can be mistaken for an attribute.
 */
public final class JsonLines implements Format {
    private static final String FIRST = "{\"" + JsonMember.TIME.text() + "\":";

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
        to.ascii(FIRST);
        if (event.hasTime()) {
            to.ascii('"');
            times.write(event.epochNanos(), to);
            to.ascii('"');
        } else {
            to.ascii("null");
        }
        if (event.level() != null) {
            quoted(JsonMember.LEVEL, to).ascii(event.level().text()).ascii('"');
        }
        text(JsonMember.SERVICE, event.service(), to);
        text(JsonMember.INSTANCE, event.instance(), to);
        text(JsonMember.LOGGER, event.logger(), to);
        text(JsonMember.MESSAGE, event.message(), to);
        if (event.trace() != null) {
            quoted(JsonMember.TRACE, to)
                    .hex(event.trace().high())
                    .hex(event.trace().low())
                    .ascii('"');
        }
        span(JsonMember.SPAN, event.span(), to);
        span(JsonMember.PARENT, event.parent(), to);
        text(JsonMember.THREAD, event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(JsonMember.SEQUENCE.following()).number(event.sequence());
        }
        if (tellsId && event.id() != null) {
            quoted(JsonMember.ID, to)
                    .ascii(event.run())
                    .ascii('-')
                    .number(event.sequence())
                    .ascii('"');
        }
        if (event.repeat()) {
            to.ascii(JsonMember.REPEAT.following()).ascii("true");
        }
        if (event.held()) {
            to.ascii(JsonMember.HELD.following()).ascii("true");
        }
        if (event.weight() != 1) {
            to.ascii(JsonMember.WEIGHT.following()).number(event.weight());
        }
        if (!event.fields().isEmpty()) {
            to.ascii(JsonMember.FIELDS.following());
            fields.write(event.fields(), to);
        }
        if (event.failure() != null) {
            quoted(JsonMember.FINGERPRINT, to)
                    .ascii(event.failure().fingerprint())
                    .ascii('"')
                    .ascii(JsonMember.FAILURE.following());
            JsonFailure.write(event.failure(), to);
        }
        to.ascii("}\n");
    }

    private static Utf8Buffer quoted(JsonMember member, Utf8Buffer to) {
        return to.ascii(member.following()).ascii('"');
    }

    private void text(JsonMember member, String value, Utf8Buffer to) {
        if (value != null) {
            to.ascii(member.following());
            texts.write(value, to);
        }
    }

    private static void span(JsonMember member, SpanId span, Utf8Buffer to) {
        if (span != null) {
            quoted(member, to).hex(span.bits()).ascii('"');
        }
    }
}
