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

    /** @param arrived nanoseconds since 1970 */
    Stamp(Origin origin, long arrived) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            json.writeObjectFieldStart(NAME);
            if (origin.source() != null) {
                json.writeStringField("source", origin.source());
            }
            if (origin.environment() != null) {
                json.writeStringField("environment", origin.environment());
            }
            if (origin.place() != null) {
                json.writeStringField("file", origin.place().file());
                json.writeStringField("log", origin.place().log());
                json.writeNumberField("position", origin.place().position());
            }
            json.writeStringField("arrived", TIME.format(Times.instant(arrived)));
            json.writeEndObject();
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        member = text.toString().substring(1).getBytes(StandardCharsets.UTF_8);
    }

    /** Returns the member and the brace that ends the object. */
    byte[] member() {
        return member;
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
