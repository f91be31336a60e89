package dev.graphema.query.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Trail;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.StringWriter;
import java.time.Duration;
import java.util.List;
import java.util.Map;

/**
 * Writes what is drawn of time maps and of trails as JSON, with the keys of {@link AnswerJson}: numbers, names and times, but no
 * message and no field of an event.
 */
public final class DrawingJson {
    private static final JsonFactory JSON = new JsonFactory();

    private interface Writing {
        void to(JsonGenerator json) throws IOException;
    }

    private DrawingJson() {}

    /** Returns an object with the columns of the map and its rows. */
    public static String of(TimeMap map) {
        return written(json -> {
            columns(json, map);
            json.writeArrayFieldStart("rows");
            for (TimeMap.Row row : map.rows()) {
                row(json, map.names(), row);
            }
            json.writeEndArray();
        });
    }

    /** Returns an object with the operations of the trail, the corrections of clocks, and the times of its events. */
    public static String of(Trail trail) {
        return written(json -> {
            operations(json, trail);
            json.writeArrayFieldStart("events");
            for (Event event : trail.events()) {
                json.writeStartObject();
                json.writeStringField("time", time(event.epochNanos()));
                json.writeStringField("service", event.service());
                json.writeStringField("instance", event.instance());
                json.writeEndObject();
            }
            json.writeEndArray();
        });
    }

    private static String written(Writing writing) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            writing.to(json);
            json.writeEndObject();
        } catch (IOException e) {
            throw new IllegalStateException("a text cannot be full", e);
        }
        return text.toString();
    }

    static void columns(JsonGenerator json, TimeMap map) throws IOException {
        json.writeStringField("step", map.step().toString());
        json.writeArrayFieldStart("begins");
        for (long begin : map.begins()) {
            json.writeString(time(begin));
        }
        json.writeEndArray();
        json.writeObjectFieldStart("all");
        cells(json, map.all());
        json.writeEndObject();
        numbers(json, "kept", map.kept());
        json.writeArrayFieldStart("spikes");
        for (boolean isSpike : map.spikes()) {
            json.writeBoolean(isSpike);
        }
        json.writeEndArray();
        json.writeNumberField("others", map.others());
    }

    static void row(JsonGenerator json, List<Name> names, TimeMap.Row row) throws IOException {
        json.writeStartObject();
        by(json, names, row.values());
        cells(json, row);
        json.writeEndObject();
    }

    /** Writes the values of the fields of a row; null for a missing field. */
    static void by(JsonGenerator json, List<Name> names, List<String> values) throws IOException {
        json.writeObjectFieldStart("by");
        for (int i = 0; i < names.size(); i++) {
            json.writeStringField(names.get(i).toString(), values.get(i));
        }
        json.writeEndObject();
    }

    private static void cells(JsonGenerator json, TimeMap.Row row) throws IOException {
        numbers(json, "counts", row.counts());
        numbers(json, "warnings", row.warnings());
        numbers(json, "errors", row.errors());
    }

    static void numbers(JsonGenerator json, String name, List<Long> numbers) throws IOException {
        json.writeArrayFieldStart(name);
        for (long number : numbers) {
            json.writeNumber(number);
        }
        json.writeEndArray();
    }

    static void operations(JsonGenerator json, Trail trail) throws IOException {
        json.writeArrayFieldStart("operations");
        for (Trail.Nested each : trail.operations()) {
            operation(json, each.span(), each.depth());
        }
        json.writeEndArray();
        json.writeObjectFieldStart("clocks_ahead");
        for (Map.Entry<String, Duration> each : trail.clocksAhead().entrySet()) {
            json.writeStringField(each.getKey(), each.getValue().toString());
        }
        json.writeEndObject();
    }

    private static void operation(JsonGenerator json, Trail.Span span, int depth) throws IOException {
        json.writeStartObject();
        json.writeStringField("span", span.id().toString());
        json.writeNumberField("depth", depth);
        if (span.name() != null) {
            json.writeStringField("name", span.name());
        }
        json.writeStringField("where", span.where());
        json.writeStringField("from", time(span.start()));
        if (span.elapsed() != null) {
            json.writeStringField("elapsed", span.elapsed().toString());
        }
        json.writeBooleanField("failed", span.failed());
        json.writeEndObject();
    }

    private static String time(long epochNanos) {
        return Times.instant(epochNanos).toString();
    }
}
