package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
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

    // Constants, because the names are written for each event.
    private static final String LEVEL = JsonMember.LEVEL.following() + '"';
    private static final String TRACE = JsonMember.TRACE.following() + '"';
    private static final String SPAN = JsonMember.SPAN.following() + '"';
    private static final String PARENT = JsonMember.PARENT.following() + '"';
    private static final String ID = JsonMember.ID.following() + '"';
    private static final String FINGERPRINT = JsonMember.FINGERPRINT.following() + '"';
    private static final String SERVICE = JsonMember.SERVICE.following();
    private static final String INSTANCE = JsonMember.INSTANCE.following();
    private static final String LOGGER = JsonMember.LOGGER.following();
    private static final String MESSAGE = JsonMember.MESSAGE.following();
    private static final String THREAD = JsonMember.THREAD.following();
    private static final String SEQUENCE = JsonMember.SEQUENCE.following();
    private static final String REPEAT = JsonMember.REPEAT.following();
    private static final String HELD = JsonMember.HELD.following();
    private static final String WEIGHT = JsonMember.WEIGHT.following();
    private static final String FIELDS = JsonMember.FIELDS.following();
    private static final String FAILURE = JsonMember.FAILURE.following();

    private final Rfc3339 times = new Rfc3339();
    private final JsonFields fields = new JsonFields();
    private final JsonRecordLines records = new JsonRecordLines();
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
            to.ascii(LEVEL).ascii(event.level().text()).ascii('"');
        }
        text(SERVICE, event.service(), to);
        text(INSTANCE, event.instance(), to);
        text(LOGGER, event.logger(), to);
        text(MESSAGE, event.message(), to);
        if (event.trace() != null) {
            to.ascii(TRACE).hex(event.trace().high()).hex(event.trace().low()).ascii('"');
        }
        span(SPAN, event.span(), to);
        span(PARENT, event.parent(), to);
        text(THREAD, event.thread(), to);
        if (event.sequence() != 0) {
            to.ascii(SEQUENCE).number(event.sequence());
        }
        if (tellsId && event.id() != null) {
            to.ascii(ID).ascii(event.run()).ascii('-').number(event.sequence()).ascii('"');
        }
        if (event.repeat()) {
            to.ascii(REPEAT).ascii("true");
        }
        if (event.held()) {
            to.ascii(HELD).ascii("true");
        }
        if (event.weight() != 1) {
            to.ascii(WEIGHT).number(event.weight());
        }
        if (!event.fields().isEmpty()) {
            to.ascii(FIELDS);
            fields.write(event.fields(), to);
        }
        if (event.failure() != null) {
            to.ascii(FINGERPRINT)
                    .ascii(event.failure().fingerprint())
                    .ascii('"')
                    .ascii(FAILURE);
            JsonFailure.write(event.failure(), to);
        }
        to.ascii("}\n");
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        records.write(event, tellsId, to);
    }

    private void text(String before, String value, Utf8Buffer to) {
        if (value != null) {
            to.ascii(before);
            texts.write(value, to);
        }
    }

    private static void span(String before, SpanId span, Utf8Buffer to) {
        if (span != null) {
            to.ascii(before).hex(span.bits()).ascii('"');
        }
    }
}
