package dev.graphema.query.json;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.condition.Name;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Locale;

/**
 * The JSON form of questions:
 *
 * <pre>{@code
 * {"where": "level >= error", "during": {"from": "2026-05-15T06:00:00Z", "to": "2026-05-15T07:00:00Z"},
 *  "ask": {"kind": "counts", "by": ["service", "instance"]}}
 * }</pre>
 *
 * <p>The keys are documented in docs/questions.md.
 */
public final class QuestionJson {
    private static final JsonFactory JSON = new JsonFactory();

    private QuestionJson() {}

    /** Returns the question as a JSON object; {@link #read} returns an equal question. */
    public static String of(Question<?> question) {
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            if (!question.where().isEverything()) {
                json.writeStringField("where", question.where().toString());
            }
            window(question.during(), json);
            if (!question.fields().isEmpty()) {
                names("fields", question.fields(), json);
            }
            json.writeObjectFieldStart("ask");
            ask(question.ask(), json);
            json.writeEndObject();
            json.writeEndObject();
        } catch (IOException e) {
            throw new UncheckedIOException(e); // a string has no errors
        }
        return text.toString();
    }

    /**
     * Reads a question. Local times in conditions are in the time zone of the system.
     *
     * @throws QuestionException if the text is not a question; the message contains place, value and expectation
     */
    public static Question<?> read(String json) {
        return new QuestionReader().read(json);
    }

    private static void window(Window window, JsonGenerator json) throws IOException {
        if (window.isAlways()) {
            return;
        }
        json.writeObjectFieldStart("during");
        if (window.from() != Long.MIN_VALUE) {
            json.writeStringField("from", Times.instant(window.from()).toString());
        }
        if (window.to() != Long.MAX_VALUE) {
            json.writeStringField("to", Times.instant(window.to() + 1).toString());
        }
        json.writeEndObject();
    }

    private static void names(String key, List<Name> names, JsonGenerator json) throws IOException {
        json.writeArrayFieldStart(key);
        for (Name name : names) {
            json.writeString(name.toString());
        }
        json.writeEndArray();
    }

    private static void ask(Ask<?> ask, JsonGenerator json) throws IOException {
        if (ask instanceof Ask.Events events) {
            json.writeStringField("kind", "events");
            json.writeStringField("order", events.order().name().toLowerCase(Locale.ROOT));
            if (events.limit() != Integer.MAX_VALUE) {
                json.writeNumberField("limit", events.limit());
            }
        } else if (ask instanceof Ask.Counts counts) {
            json.writeStringField("kind", "counts");
            names("by", counts.by(), json);
            if (counts.measured() != null) {
                json.writeStringField("measured", counts.measured().toString());
                json.writeArrayFieldStart("percentiles");
                for (BigDecimal each : counts.percentiles()) {
                    json.writeNumber(each);
                }
                json.writeEndArray();
            }
            if (counts.items()) {
                json.writeBooleanField("items", true);
            }
        } else if (ask instanceof Ask.TimeSteps steps) {
            steps(steps, json);
        } else if (ask instanceof Ask.TimeCells cells) {
            json.writeStringField("kind", "map");
            steps(cells.most(), cells.step(), cells.zone(), json);
            json.writeArrayFieldStart("by");
            for (Name name : cells.by()) {
                json.writeString(name.toString());
            }
            json.writeEndArray();
            json.writeNumberField("shown", cells.shown());
        } else if (ask instanceof Ask.TrailOf trail) {
            json.writeStringField("kind", "trail");
            json.writeStringField("name", trail.name().toString());
            json.writeStringField("value", trail.value());
        } else if (ask instanceof Ask.Failures failures) {
            json.writeStringField("kind", "failures");
            json.writeNumberField("parts", failures.parts());
        } else if (ask instanceof Ask.Contrast contrast) {
            json.writeStringField("kind", "contrast");
            json.writeStringField("with", contrast.with().toString());
            window(contrast.during(), json);
        } else if (ask instanceof Ask.ContextOf context) {
            json.writeStringField("kind", "context");
            json.writeStringField("event", context.event().toString());
            json.writeNumberField("count", context.count());
        } else if (ask instanceof Ask.Values values) {
            json.writeStringField("kind", "values");
            if (values.containing() != null) {
                json.writeStringField("containing", values.containing());
            }
            json.writeNumberField("shown", values.shown());
        } else {
            json.writeStringField("kind", "fields");
        }
    }

    private static void steps(Ask.TimeSteps steps, JsonGenerator json) throws IOException {
        json.writeStringField("kind", "timeline");
        steps(steps.most(), steps.step(), steps.zone(), json);
        if (steps.by() != null) {
            json.writeStringField("by", steps.by().toString());
            json.writeNumberField("shown", steps.shown());
        }
    }

    private static void steps(int most, Duration step, ZoneId zone, JsonGenerator json) throws IOException {
        if (step == null) {
            json.writeNumberField("most", most);
        } else {
            json.writeStringField("step", step.toString());
        }
        if (zone != null) {
            json.writeStringField("zone", zone.toString());
        }
    }
}
