package dev.graphema.collector.ingest;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.event.Fields;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;

/**
 * The field {@value #NAME} of all events of one request: {@code "collector":{"source":"deck","environment":"production",
 * "arrived":"2026-05-15T06:31:02.123456789Z"}}.
 */
final class Stamp {
    /** The name of the group. Senders cannot set it: a field of theirs with this name is renamed. */
    static final String NAME = "collector";

    private static final String RENAMED = "sender.";
    private static final JsonFactory JSON = new JsonFactory();
    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern(
                    "uuuu-MM-dd'T'HH:mm:ss.SSSSSSSSS'Z'", Locale.ROOT)
            .withZone(ZoneOffset.UTC);

    private final byte[] member;
    private final Map<String, Object> group = new LinkedHashMap<>();

    /** @param arrived nanoseconds since 1970 */
    Stamp(Origin origin, long arrived) {
        put("source", origin.source());
        put("environment", origin.environment());
        if (origin.place() != null) {
            put("file", origin.place().file());
            put("log", origin.place().log());
            put("position", origin.place().position());
        }
        put("arrived", TIME.format(Times.instant(arrived)));
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            json.writeObjectFieldStart(NAME);
            for (Map.Entry<String, Object> each : group.entrySet()) {
                if (each.getValue() instanceof Long number) {
                    json.writeNumberField(each.getKey(), number);
                } else {
                    json.writeStringField(each.getKey(), (String) each.getValue());
                }
            }
            json.writeEndObject();
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        member = text.toString().substring(1, text.getBuffer().length() - 1).getBytes(StandardCharsets.UTF_8);
    }

    private void put(String name, Object value) {
        if (value != null) {
            group.put(name, value);
        }
    }

    /** Returns the member of a JSON object. */
    byte[] member() {
        return member;
    }

    /** Returns the fields of the group. */
    Map<String, Object> group() {
        return group;
    }

    /** Returns whether lines may have a field with the name, also if it is escaped. */
    static boolean mayBeForged(String lines) {
        return lines.contains(NAME) || lines.contains("\\u00");
    }

    static boolean isForged(Fields fields) {
        return fields.names().stream().anyMatch(Stamp::isReserved);
    }

    /** Returns the fields with another name for those of this name. */
    static Fields renamed(Fields fields) {
        Map<String, Object> all = new LinkedHashMap<>();
        fields.toMap().forEach((name, value) -> all.put(isReserved(name) ? RENAMED + name : name, value));
        return Fields.of(to -> all.forEach(to::put));
    }

    private static boolean isReserved(String name) {
        return name.equals(NAME) || name.startsWith(NAME + ".");
    }
}
