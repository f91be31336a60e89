package dev.graphema.lines.form;

import dev.graphema.query.partial.EventLines;
import java.nio.charset.StandardCharsets;

/** Reads events that were written in Graphema JSON, one at a time. */
public final class WrittenEvents {
    private WrittenEvents() {}

    /** Returns a reader for one thread. */
    public static EventLines reader() {
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
