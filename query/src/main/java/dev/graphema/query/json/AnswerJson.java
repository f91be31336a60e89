package dev.graphema.query.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.format.JsonLines;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.Estimate;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FieldValues;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.Measure;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import dev.graphema.query.partial.FirstEvents;
import dev.graphema.query.partial.PlacedEvent;
import dev.graphema.text.Durations;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.io.OutputStream;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.function.Supplier;
import java.util.stream.Stream;

/**
 * Writes answers as JSON (RFC 8259), with fixed keys: {@code answer} names the kind, {@code rows} has what was asked for, and
 * {@code coverage} what was read. Times are RFC 3339 in UTC, durations ISO 8601. The keys are documented in
 * docs/questions.md. For one thread.
 */
public final class AnswerJson {
    private static final JsonFactory JSON = new JsonFactory();

    private final JsonGenerator json;
    private final JsonLines events = new JsonLines();

    private AnswerJson(JsonGenerator json) {
        this.json = json;
    }

    /** Returns the answer as a JSON object. */
    public static String of(Answer answer) {
        return written(to -> to.answer(answer));
    }

    /**
     * Writes found events as the answer would be written, one after the other, so that they are never all in memory.
     *
     * @param coverage returns what was read; called last, because kept events are read completely when they are written
     * @param to is not closed
     */
    public static void write(FirstEvents found, Supplier<Coverage> coverage, OutputStream to) throws IOException {
        try (JsonGenerator json = JSON.createGenerator(to)) {
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);
            json.disable(JsonGenerator.Feature.AUTO_CLOSE_JSON_CONTENT); // what is cut off must not look complete
            AnswerJson written = new AnswerJson(json);
            json.writeStartObject();
            json.writeStringField("answer", "events");
            json.writeNumberField("matching", found.matching());
            json.writeArrayFieldStart("rows");
            for (PlacedEvent placed : found.placed()) {
                Event event = found.complete(placed);
                if (event != null) {
                    written.event(event);
                }
            }
            json.writeEndArray();
            json.writeObjectFieldStart("coverage");
            written.coverage(coverage.get());
            json.writeEndObject();
            json.writeEndObject();
        }
    }

    /** Returns the rows of an answer, each as a JSON object on one line. */
    public static Stream<String> rows(Answer answer) {
        return rowsOf(answer).stream().map(AnswerJson::written);
    }

    private interface Writing {
        void write(AnswerJson to) throws IOException;
    }

    private static String written(Writing writing) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            writing.write(new AnswerJson(json));
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        return text.toString();
    }

    private void answer(Answer answer) throws IOException {
        json.writeStartObject();
        json.writeStringField("answer", kind(answer));
        if (answer instanceof FoundEvents found) {
            json.writeNumberField("matching", found.matching());
        } else if (answer instanceof CountTable counts) {
            json.writeObjectFieldStart("all");
            estimate(counts.all());
            json.writeEndObject();
        } else if (answer instanceof Timeline timeline) {
            json.writeStringField("step", timeline.step().toString());
        } else if (answer instanceof TimeMap map) {
            DrawingJson.columns(json, map);
        } else if (answer instanceof Differences differences) {
            json.writeNumberField("others", differences.others());
            json.writeNumberField("events", differences.events());
            texts(
                    "too_many_values",
                    differences.tooManyValues().stream().sorted().toList());
        }
        json.writeArrayFieldStart("rows");
        for (Writing row : rowsOf(answer)) {
            row.write(this);
        }
        json.writeEndArray();
        json.writeObjectFieldStart("coverage");
        coverage(answer.coverage());
        json.writeEndObject();
        json.writeEndObject();
    }

    private static String kind(Answer answer) {
        if (answer instanceof FoundEvents) {
            return "events";
        }
        if (answer instanceof CountTable) {
            return "counts";
        }
        if (answer instanceof Timeline) {
            return "timeline";
        }
        if (answer instanceof TimeMap) {
            return "map";
        }
        if (answer instanceof Trails) {
            return "trail";
        }
        if (answer instanceof FailureKinds) {
            return "failures";
        }
        if (answer instanceof Differences) {
            return "contrast";
        }
        if (answer instanceof FieldValues) {
            return "values";
        }
        return answer instanceof EventContext ? "context" : "fields";
    }

    private static List<Writing> rowsOf(Answer answer) {
        if (answer instanceof FieldValues values) {
            return rows(values.names(), AnswerJson::values);
        }
        if (answer instanceof FoundEvents found) {
            return rows(found.events(), AnswerJson::event);
        }
        if (answer instanceof CountTable counts) {
            return rows(counts.rows(), (to, row) -> to.count(counts.names(), row));
        }
        if (answer instanceof Timeline timeline) {
            return rows(timeline.steps(), (to, step) -> to.step(timeline.values(), step));
        }
        if (answer instanceof TimeMap map) {
            return rows(map.rows(), (to, row) -> DrawingJson.row(to.json, map.names(), row));
        }
        if (answer instanceof Trails trails) {
            return rows(trails.trails(), AnswerJson::trail);
        }
        if (answer instanceof FailureKinds failures) {
            return rows(failures.kinds(), AnswerJson::failure);
        }
        if (answer instanceof Differences differences) {
            return rows(differences.differences(), (to, row) -> to.difference(differences, row));
        }
        return answer instanceof EventContext context
                ? rows(context.event() == null ? List.of() : List.of(context), AnswerJson::context)
                : rows(List.of((FieldCatalogue) answer), AnswerJson::fields);
    }

    private interface RowWriting<R> {
        void write(AnswerJson to, R row) throws IOException;
    }

    private static <R> List<Writing> rows(Collection<R> rows, RowWriting<R> writing) {
        return rows.stream().<Writing>map(row -> to -> writing.write(to, row)).toList();
    }

    private void event(Event event) throws IOException {
        Utf8Buffer buffer = new Utf8Buffer(512);
        events.write(event, buffer);
        json.writeRawValue(buffer.toString().stripTrailing());
    }

    private void events(String name, List<Event> all) throws IOException {
        json.writeArrayFieldStart(name);
        for (Event each : all) {
            event(each);
        }
        json.writeEndArray();
    }

    private void count(List<Name> names, CountTable.Row row) throws IOException {
        json.writeStartObject();
        DrawingJson.by(json, names, row.values());
        estimate(row.events());
        if (row.measured() != null) {
            measure(row.measured());
        }
        json.writeEndObject();
    }

    private void estimate(Estimate estimate) throws IOException {
        json.writeNumberField("count", estimate.count());
        if (estimate.isEstimate()) {
            json.writeNumberField("kept", estimate.kept());
            json.writeNumberField("low", estimate.low());
            json.writeNumberField("high", estimate.high());
        }
    }

    private void measure(Measure measure) throws IOException {
        json.writeObjectFieldStart("measured");
        json.writeNumberField("count", measure.count());
        json.writeNumberField("different", measure.distinct());
        if (measure.numbers() > 0) {
            json.writeNumberField("numbers", measure.numbers());
            number("sum", measure.sum(), measure);
            number("mean", measure.mean(), measure);
            number("least", measure.least(), measure);
            number("most", measure.most(), measure);
            json.writeArrayFieldStart("percentiles");
            for (Measure.Percentile each : measure.percentiles()) {
                json.writeStartObject();
                json.writeNumberField("of", each.of());
                number("value", each.value(), measure);
                json.writeEndObject();
            }
            json.writeEndArray();
            json.writeNumberField("error", measure.error());
        }
        json.writeEndObject();
    }

    private void number(String name, BigDecimal number, Measure measure) throws IOException {
        if (measure.isDuration()) {
            json.writeStringField(name, Durations.ofNanos(number).toString());
        } else {
            json.writeNumberField(name, number);
        }
    }

    private void step(List<String> values, Timeline.Step step) throws IOException {
        json.writeStartObject();
        time("from", step.from());
        json.writeNumberField("count", step.count());
        if (!values.isEmpty()) {
            json.writeObjectFieldStart("by");
            for (int i = 0; i < values.size(); i++) {
                json.writeNumberField(values.get(i), step.byValue().get(i));
            }
            json.writeEndObject();
        }
        json.writeBooleanField("spike", step.isSpike());
        json.writeEndObject();
    }

    private void trail(Trail trail) throws IOException {
        json.writeStartObject();
        json.writeStringField("name", trail.name());
        texts("services", trail.services());
        DrawingJson.operations(json, trail);
        events("events", trail.events());
        json.writeEndObject();
    }

    private void failure(FailureKinds.Kind kind) throws IOException {
        Failure example = kind.example().failure();
        json.writeStartObject();
        json.writeStringField("fingerprint", kind.fingerprint());
        json.writeNumberField("count", kind.count());
        time("first", kind.first());
        time("last", kind.last());
        texts("where", kind.where().stream().sorted().toList());
        json.writeStringField("type", example.type());
        json.writeStringField("message", example.message());
        json.writeStringField(
                "at",
                example.frames().isEmpty() ? null : example.frames().get(0).toString());
        DrawingJson.numbers(json, "course", kind.course());
        json.writeFieldName("example");
        event(kind.example());
        json.writeEndObject();
    }

    private void difference(Differences all, Differences.Difference difference) throws IOException {
        json.writeStartObject();
        json.writeStringField("difference", difference.kind().name().toLowerCase(Locale.ROOT));
        json.writeStringField("condition", difference.condition());
        json.writeNumberField("others", difference.others());
        json.writeNumberField("events", difference.events());
        json.writeNumberField("others_share", rounded((double) difference.others() / all.others()));
        json.writeNumberField("events_share", rounded((double) difference.events() / all.events()));
        json.writeNumberField("surprise", rounded(difference.surprise()));
        texts("also", difference.also());
        json.writeEndObject();
    }

    private void context(EventContext context) throws IOException {
        json.writeStartObject();
        events("before", context.before());
        json.writeFieldName("event");
        event(context.event());
        events("after", context.after());
        json.writeEndObject();
    }

    private void values(FieldValues.OfName name) throws IOException {
        json.writeStartObject();
        json.writeStringField("name", name.name());
        json.writeNumberField("events", name.events());
        json.writeNumberField("different", name.distinct());
        json.writeArrayFieldStart("values");
        for (FieldValues.Value value : name.values()) {
            json.writeStartObject();
            json.writeStringField("value", value.text());
            json.writeNumberField("count", value.count());
            json.writeEndObject();
        }
        json.writeEndArray();
        json.writeEndObject();
    }

    private void fields(FieldCatalogue catalogue) throws IOException {
        json.writeStartObject();
        json.writeNumberField("events", catalogue.events());
        if (catalogue.first() <= catalogue.last()) {
            time("first", catalogue.first());
            time("last", catalogue.last());
        }
        texts("fields", catalogue.fields());
        texts("durations", catalogue.durations());
        json.writeEndObject();
    }

    private void coverage(Coverage coverage) throws IOException {
        json.writeNumberField("files", coverage.files());
        json.writeNumberField("events", coverage.events());
        json.writeNumberField("bytes", coverage.bytes());
        problems("unreadable", coverage.unreadable());
        problems("damaged", coverage.damaged());
        places("failures", coverage.failures());
        texts("truncated", coverage.truncated());
        json.writeBooleanField("estimate", coverage.isEstimate());
        json.writeBooleanField("stopped", coverage.isStopped());
        json.writeStringField("elapsed", coverage.elapsed().toString());
    }

    private void problems(String name, List<Coverage.Problem> problems) throws IOException {
        json.writeArrayFieldStart(name);
        for (Coverage.Problem problem : problems) {
            json.writeStartObject();
            json.writeStringField("reason", problem.reason());
            json.writeNumberField("count", problem.count());
            json.writeArrayFieldStart("places");
            for (Coverage.Place place : problem.places()) {
                json.writeStartObject();
                place(place);
                json.writeEndObject();
            }
            json.writeEndArray();
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private void place(Coverage.Place place) throws IOException {
        json.writeStringField("source", place.source());
        if (place.line() > 0) {
            json.writeNumberField("line", place.line());
        }
    }

    private void places(String name, List<Coverage.Place> places) throws IOException {
        json.writeArrayFieldStart(name);
        for (Coverage.Place place : places) {
            json.writeStartObject();
            place(place);
            json.writeStringField("reason", place.reason());
            json.writeEndObject();
        }
        json.writeEndArray();
    }

    private void time(String name, long epochNanos) throws IOException {
        json.writeStringField(name, Times.instant(epochNanos).toString());
    }

    private void texts(String name, Collection<String> texts) throws IOException {
        json.writeArrayFieldStart(name);
        for (String text : texts) {
            json.writeString(text);
        }
        json.writeEndArray();
    }

    private static double rounded(double value) {
        return Math.round(value * 1e6) / 1e6;
    }
}
