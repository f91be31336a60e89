package dev.graphema.remote;

import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.query.partial.EventLines;
import java.nio.charset.StandardCharsets;

/** Reads events as a collector writes them. */
final class WrittenEvents {
    private WrittenEvents() {}

    /** Returns a reader for one thread. */
    static EventLines reader() {
        JsonLine json = new JsonLine();
        return (line, place) -> {
            byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
            try {
                return json.read(bytes, 0, bytes.length, place, true);
            } catch (UnreadableLineException e) {
                return null;
            }
        };
    }
}
