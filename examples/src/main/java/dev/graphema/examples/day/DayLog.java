package dev.graphema.examples.day;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.redaction.Redactor;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.zip.GZIPOutputStream;

/** The log of one instance during the day. */
final class DayLog {
    private final String service;
    private final String instance;
    private final long clockAheadNanos;
    private final Redactor redactor = RedactionSettings.USUAL.redactor();
    private final List<Draft> drafts = new ArrayList<>();

    /** @param clockAheadNanos by how much the clock of the host is ahead */
    DayLog(String service, String instance, long clockAheadNanos) {
        this.service = service;
        this.instance = instance;
        this.clockAheadNanos = clockAheadNanos;
    }

    String instance() {
        return instance;
    }

    /** Adds an event at a true time. */
    void add(long atNanos, Draft draft) {
        drafts.add(draft.time(atNanos + clockAheadNanos).service(service).instance(instance));
    }

    /** Writes a file as a runtime would: redacted, numbered, in the order of time. */
    void write(Path folder) throws IOException {
        List<Draft> inOrder = new ArrayList<>(drafts);
        inOrder.sort(Comparator.comparingLong(draft -> draft.epochNanos()));
        JsonLines format = new JsonLines();
        Utf8Buffer buffer = new Utf8Buffer(1 << 16);
        long number = 0;
        try (OutputStream file = new GZIPOutputStream(Files.newOutputStream(folder.resolve(instance + ".jsonl.gz")))) {
            for (Draft draft : inOrder) {
                redactor.redact(draft);
                Event event = draft.sequence(++number).finish();
                format.write(event, buffer);
                buffer.writeTo(file);
                buffer.clear();
            }
        }
        drafts.clear();
    }
}
