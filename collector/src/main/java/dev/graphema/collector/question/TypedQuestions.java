package dev.graphema.collector.question;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonGenerator;
import dev.graphema.collector.access.Role;
import dev.graphema.collector.http.Call;
import dev.graphema.collector.http.Problem;
import dev.graphema.collector.permission.Access;
import dev.graphema.query.Window;
import dev.graphema.query.typed.MistypedException;
import dev.graphema.query.typed.TypedQuestion;
import dev.graphema.text.Times;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.Locale;
import java.util.Map;

/** Reads questions as people type them, without answering them. Thread-safe. */
public final class TypedQuestions {
    private static final JsonFactory JSON = new JsonFactory();

    private final Access access;
    private final InstantSource clock;

    public TypedQuestions(Access access, InstantSource clock) {
        this.access = access;
        this.clock = clock;
    }

    /** Answers with the parts of the question in the body, whose times are in the zone of the parameter {@code zone}. */
    public void read(Call call) throws Problem, IOException {
        access.require(Role.READ, call);
        TypedQuestion typed = parsed(new String(call.body(), StandardCharsets.UTF_8), zone(call), clock);
        StringWriter text = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(text)) {
            json.writeStartObject();
            json.writeStringField("condition", typed.condition());
            json.writeStringField(
                    "where", typed.where().isEverything() ? "" : typed.where().toString());
            json.writeObjectFieldStart("during");
            if (typed.during().from() != Window.ALWAYS.from()) {
                json.writeStringField(
                        "from", Times.instant(typed.during().from()).toString());
            }
            if (typed.during().to() != Window.ALWAYS.to()) {
                json.writeStringField(
                        "to", Times.instant(typed.during().to() + 1).toString());
            }
            json.writeEndObject();
            json.writeStringField("order", typed.order().name().toLowerCase(Locale.ROOT));
            json.writeObjectFieldStart("options");
            for (Map.Entry<String, String> each : typed.options().entrySet()) {
                json.writeStringField(each.getKey(), each.getValue());
            }
            json.writeEndObject();
            json.writeEndObject();
        }
        call.send(200, "application/json", text.toString());
    }

    /** @throws Problem with the column of the error */
    static TypedQuestion parsed(String text, ZoneId zone, InstantSource clock) throws Problem {
        try {
            return TypedQuestion.parse(text, zone, clock.instant());
        } catch (MistypedException e) {
            throw new Problem(400, "The question cannot be read", e.getMessage()).atColumn(e.column());
        }
    }

    static ZoneId zone(Call call) throws Problem {
        String zone = call.parameter("zone");
        try {
            return ZoneId.of(zone == null ? "UTC" : zone);
        } catch (DateTimeException e) {
            throw new Problem(
                    400, "The zone cannot be read", "zone is \"" + zone + "\": expected one such as Europe/Oslo");
        }
    }
}
