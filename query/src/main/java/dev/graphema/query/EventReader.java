package dev.graphema.query;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.exc.StreamReadException;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Frame;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.Times;
import dev.graphema.event.TraceId;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Reads an event from a line in the form that {@link dev.graphema.format.JsonLines} writes. A name at the top that is no
 * attribute is taken as a field. For one thread.
 */
final class EventReader {
    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(200)
                    .maxStringLength(LineReader.MAX_LINE)
                    .build())
            .build();

    private static final Pattern EVENT_ID = Pattern.compile("[0-9a-f]{16}-[0-9]{1,18}");

    private Draft draft;
    private boolean hasTime;
    private TraceId trace;
    private SpanId span;
    private SpanId parent;

    /**
     * The event that the bytes tell of.
     *
     * @throws UnreadableLineException when they are no JSON object, or one without a time
     */
    Event read(byte[] bytes, int from, int to) throws UnreadableLineException {
        draft = Draft.ofWritten();
        hasTime = false;
        trace = null;
        span = null;
        parent = null;
        try (JsonParser json = JSON.createParser(bytes, from, to - from)) {
            if (json.nextToken() != JsonToken.START_OBJECT) {
                throw new UnreadableLineException("expected a JSON object");
            }
            while (json.nextToken() != JsonToken.END_OBJECT) {
                String name = json.currentName();
                json.nextToken();
                attribute(name, json);
            }
            if (json.nextToken() != null) {
                throw new UnreadableLineException("expected one JSON object, but there is more behind it");
            }
        } catch (StreamReadException e) {
            throw new UnreadableLineException("not JSON: " + e.getOriginalMessage());
        } catch (IOException e) {
            throw new UnreadableLineException("not JSON: " + e.getMessage());
        }
        if (!hasTime) {
            throw new UnreadableLineException("expected a \"time\" such as \"2026-05-15T06:31:02.123Z\"");
        }
        return draft.trace(trace, span, parent).finish();
    }

    private void attribute(String name, JsonParser json) throws IOException, UnreadableLineException {
        boolean text = json.currentToken() == JsonToken.VALUE_STRING;
        boolean whole = json.currentToken() == JsonToken.VALUE_NUMBER_INT;
        switch (text ? name : whole && name.length() > 5 ? name + "#" : "") {
            case "time" -> time(json.getText());
            case "level" -> draft.level(Level.of(json.getText()));
            case "service" -> draft.service(json.getText());
            case "instance" -> draft.instance(json.getText());
            case "logger" -> draft.logger(json.getText());
            case "message" -> draft.message(json.getText());
            case "thread" -> draft.thread(json.getText());
            case "trace" -> trace = TraceId.parse(json.getText());
            case "span" -> span = SpanId.parse(json.getText());
            case "parent" -> parent = SpanId.parse(json.getText());
            case "id" -> id(name, json);
            case "fingerprint" -> json.skipChildren(); // follows from the failure
            case "sequence#" -> draft.sequence(json.getLongValue());
            case "weight#" -> draft.weight(json.getLongValue());
            default -> structure(name, json);
        }
    }

    /** Run and sequence, or else somebody's own field of that name. */
    private void id(String name, JsonParser json) throws IOException {
        String text = json.getText();
        if (EVENT_ID.matcher(text).matches()) {
            draft.run(text.substring(0, text.indexOf('-')));
        } else {
            field(name, json, draft.writer());
        }
    }

    private void structure(String name, JsonParser json) throws IOException {
        boolean object = json.currentToken() == JsonToken.START_OBJECT;
        if (name.equals("repeat") && json.currentToken() == JsonToken.VALUE_TRUE) {
            draft.repeat(true);
        } else if (name.equals("held") && json.currentToken() == JsonToken.VALUE_TRUE) {
            draft.held(true);
        } else if (object && name.equals("failure")) {
            draft.failure(failure(json));
        } else if (object && name.equals("fields")) {
            fields(json, draft.writer());
        } else {
            field(name, json, draft.writer());
        }
    }

    private void time(String text) throws UnreadableLineException {
        // A text without an offset does not say which moment it means; UTC is the answer that is the same everywhere.
        Long time = Times.parse(text, ZoneOffset.UTC);
        if (time == null) {
            throw new UnreadableLineException("\"time\" is no RFC 3339 time such as \"2026-05-15T06:31:02.123Z\"");
        }
        draft.time(time);
        hasTime = true;
    }

    private static void fields(JsonParser json, FieldWriter to) throws IOException {
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            json.nextToken();
            field(name, json, to);
        }
    }

    private static void field(String name, JsonParser json, FieldWriter to) throws IOException {
        switch (json.currentToken()) {
            case VALUE_STRING -> to.put(name, meaning(json.getText()));
            case VALUE_TRUE, VALUE_FALSE -> to.put(name, json.getBooleanValue());
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> to.put(name, number(json));
            case VALUE_NULL -> to.put(name, (String) null);
            default -> to.put(name, value(json));
        }
    }

    /** A duration that was written as one; any other text is itself. */
    private static Object meaning(String value) {
        if (value.startsWith("PT")) {
            try {
                Duration duration = Duration.parse(value);
                return duration.toString().equals(value) ? duration : value;
            } catch (DateTimeException e) {
                return value;
            }
        }
        return value;
    }

    private static Object number(JsonParser json) throws IOException {
        return switch (json.getNumberType()) {
            case INT, LONG -> json.getLongValue();
            case BIG_INTEGER -> json.getBigIntegerValue();
            default -> {
                BigDecimal exact = json.getDecimalValue();
                double nearest = exact.doubleValue();
                yield Double.isFinite(nearest) && new BigDecimal(Double.toString(nearest)).compareTo(exact) == 0
                        ? (Object) nearest
                        : exact;
            }
        };
    }

    private static Object value(JsonParser json) throws IOException {
        return switch (json.currentToken()) {
            case START_OBJECT -> {
                Map<String, Object> group = new LinkedHashMap<>();
                while (json.nextToken() != JsonToken.END_OBJECT) {
                    String name = json.currentName();
                    json.nextToken();
                    group.put(name, value(json));
                }
                yield group;
            }
            case START_ARRAY -> {
                List<Object> items = new ArrayList<>();
                while (json.nextToken() != JsonToken.END_ARRAY) {
                    items.add(value(json));
                }
                yield items;
            }
            case VALUE_STRING -> meaning(json.getText());
            case VALUE_TRUE, VALUE_FALSE -> json.getBooleanValue();
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> number(json);
            default -> null;
        };
    }

    private static Failure failure(JsonParser json) throws IOException {
        String type = "unknown";
        String message = null;
        List<Frame> frames = new ArrayList<>();
        int shared = 0;
        int omitted = 0;
        Failure cause = null;
        List<Failure> suppressed = new ArrayList<>();
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            JsonToken token = json.nextToken();
            if (name.equals("type") && token == JsonToken.VALUE_STRING) {
                type = json.getText();
            } else if (name.equals("message") && token == JsonToken.VALUE_STRING) {
                message = json.getText();
            } else if (name.equals("frames") && token == JsonToken.START_ARRAY) {
                while (json.nextToken() != JsonToken.END_ARRAY) {
                    frames.add(Frame.parse(json.getText()));
                    json.skipChildren();
                }
            } else if (name.equals("shared") && token == JsonToken.VALUE_NUMBER_INT) {
                shared = json.getIntValue();
            } else if (name.equals("omitted") && token == JsonToken.VALUE_NUMBER_INT) {
                omitted = json.getIntValue();
            } else if (name.equals("cause") && token == JsonToken.START_OBJECT) {
                cause = failure(json);
            } else if (name.equals("suppressed") && token == JsonToken.START_ARRAY) {
                while (json.nextToken() == JsonToken.START_OBJECT) {
                    suppressed.add(failure(json));
                }
            } else {
                json.skipChildren();
            }
        }
        return new Failure(type, message, frames, shared, omitted, cause, suppressed);
    }
}
