package dev.graphema.format;

import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
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
    private final JsonRecordLines records = new JsonRecordLines();
    private final EventBytes bytes = new EventBytes();
    private final EventRecord record = new EventRecord();
    private final boolean withId;

    /** Writes lines as described above. */
    public JsonLines() {
        this(false);
    }

    /** @param withId whether events contain their id, by which readers recognise duplicates */
    public JsonLines(boolean withId) {
        this.withId = withId;
    }

    @Override
    public void write(Event event, Utf8Buffer to) {
        bytes.write(event);
        write(record.read(bytes.array(), 0, bytes.length()), to);
    }

    @Override
    public void write(EventRecord event, Utf8Buffer to) {
        records.write(event, withId, to);
    }
}
