package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import dev.graphema.event.Failure;
import dev.graphema.format.JsonMember;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Reads failures in Graphema JSON. */
final class JsonFailure {
    private JsonFailure() {}

    /** Reads the object whose start is the current token; unknown members are skipped. */
    static Failure read(JsonParser json) throws IOException {
        String type = "unknown";
        String message = null;
        List<Failure.Frame> frames = new ArrayList<>();
        int shared = 0;
        int omitted = 0;
        Failure cause = null;
        List<Failure> suppressed = new ArrayList<>();
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            JsonToken token = json.nextToken();
            JsonMember.OfFailure member = JsonMember.OfFailure.of(name);
            if (member == null || token != expected(member)) {
                json.skipChildren();
                continue;
            }
            switch (member) {
                case TYPE -> type = json.getText();
                case MESSAGE -> message = json.getText();
                case FRAMES -> frames(json, frames);
                case SHARED -> shared = json.getIntValue();
                case OMITTED -> omitted = json.getIntValue();
                case CAUSE -> cause = read(json);
                default -> {
                    while (json.nextToken() == JsonToken.START_OBJECT) {
                        suppressed.add(read(json));
                    }
                }
            }
        }
        return new Failure(type, message, frames, shared, omitted, cause, suppressed);
    }

    private static JsonToken expected(JsonMember.OfFailure member) {
        return switch (member) {
            case TYPE, MESSAGE -> JsonToken.VALUE_STRING;
            case FRAMES, SUPPRESSED -> JsonToken.START_ARRAY;
            case SHARED, OMITTED -> JsonToken.VALUE_NUMBER_INT;
            case CAUSE -> JsonToken.START_OBJECT;
        };
    }

    private static void frames(JsonParser json, List<Failure.Frame> to) throws IOException {
        while (json.nextToken() != JsonToken.END_ARRAY) {
            to.add(Failure.Frame.parse(json.getText()));
            json.skipChildren();
        }
    }
}
