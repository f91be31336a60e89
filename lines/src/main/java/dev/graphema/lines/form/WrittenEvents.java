package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonParser;
import dev.graphema.query.partial.EventLines;
import java.io.IOException;
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

    /**
     * Returns the value of a field, as it is read in an event: a text, Long, Double, BigDecimal, Boolean, Duration, Map, List or null.
     *
     * @param json null for none
     * @throws IllegalArgumentException if it is no JSON
     */
    public static Object value(String json) {
        if (json == null) {
            return null;
        }
        try (JsonParser parser = JsonLine.JSON.createParser(json)) {
            parser.nextToken();
            return new JsonValues(damage -> {}).value(parser);
        } catch (IOException e) {
            throw new IllegalArgumentException("a value is no JSON: " + e.getMessage(), e);
        }
    }
}
