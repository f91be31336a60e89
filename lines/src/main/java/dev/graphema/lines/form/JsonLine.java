package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.json.JsonReadFeature;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.format.JsonMember;
import dev.graphema.text.Decimals;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;

/**
 * Reads events from lines that are JSON objects: in the form of {@link dev.graphema.format.JsonLines}, or in that of
 * another program, by the common meaning of names. For one thread.
 *
 * <p>A line that begins as an object is an event: it has the values before any damage, which {@link #damage} describes.
 * Control characters in texts, backslashes before any character, numbers with leading zeros, and bytes that are not
 * UTF-8, which become U+FFFD, are accepted. An object without a time is an event without a time.
 */
public final class JsonLine {
    /** The longest logged number has a sign, a point and some zeros in addition to its digits. */
    private static final int MOST_OF_A_NUMBER = Decimals.MOST_DIGITS + 100;

    private static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(200)
                    .maxStringLength(LineShape.MAX_LINE)
                    .maxNumberLength(MOST_OF_A_NUMBER)
                    .build())
            .enable(JsonReadFeature.ALLOW_UNESCAPED_CONTROL_CHARS)
            .enable(JsonReadFeature.ALLOW_BACKSLASH_ESCAPING_ANY_CHARACTER)
            .enable(JsonReadFeature.ALLOW_LEADING_ZEROS_FOR_NUMBERS)
            .enable(JsonReadFeature.ALLOW_LEADING_PLUS_SIGN_FOR_NUMBERS)
            .enable(JsonReadFeature.ALLOW_LEADING_DECIMAL_POINT_FOR_NUMBERS)
            .enable(JsonReadFeature.ALLOW_TRAILING_DECIMAL_POINT_FOR_NUMBERS)
            .enable(JsonReadFeature.ALLOW_NON_NUMERIC_NUMBERS)
            .build();

    private static final Pattern EVENT_ID = Pattern.compile("[0-9a-f]{16}-[0-9]{1,18}");

    private final EventAssembler assembly;
    private Draft draft;
    private String damage;
    private boolean isObject;

    /** Reads names with their common meaning. */
    public JsonLine() {
        this(LineShape.USUAL);
    }

    public JsonLine(LineShape shape) {
        assembly = new EventAssembler(shape);
    }

    /**
     * Reads the event of a line.
     *
     * @param place the time that determines the position of an event without a time, in nanoseconds since 1970
     * @throws UnreadableLineException if the bytes do not begin as a JSON object
     */
    public Event read(byte[] bytes, int from, int to, long place) throws UnreadableLineException {
        damage = null;
        isObject = false;
        draft = assembly.begin();
        try (JsonParser json = JSON.createParser(bytes, from, to - from)) {
            object(json);
        } catch (IOException e) {
            readDecoded(new String(bytes, from, to - from, StandardCharsets.UTF_8), e);
        }
        if (!isObject) {
            throw new UnreadableLineException("expected a JSON object");
        }
        Event event = assembly.finishWithin(place).finish();
        damage = damage == null ? assembly.defect() : damage;
        return event;
    }

    /** As above, for an event that must have a time. @throws UnreadableLineException also if it has none */
    public Event read(byte[] bytes, int from, int to) throws UnreadableLineException {
        Event event = read(bytes, from, to, 0);
        if (!event.hasTime()) {
            throw new UnreadableLineException(damage);
        }
        return event;
    }

    /** Returns the damage of the last line; null for none. */
    public String damage() {
        return damage;
    }

    /** The parser stops at bytes that are not UTF-8. As text, with U+FFFD instead, the line may be complete. */
    private void readDecoded(String line, IOException before) {
        if (line.indexOf('\uFFFD') < 0) {
            damage = damage(before);
            return;
        }
        draft = assembly.begin();
        damage = "bytes that are not UTF-8 are shown as U+FFFD";
        try (JsonParser json = JSON.createParser(line)) {
            object(json);
        } catch (IOException e) {
            damage = damage(e);
        }
    }

    /** Messages of the library mention its options. */
    private static String damage(IOException problem) {
        JsonLocation place = problem instanceof JsonProcessingException e ? e.getLocation() : null;
        return place == null
                ? "the rest of the line is not JSON"
                : "not JSON from column " + place.getColumnNr() + " on: the event has what was read before that";
    }

    private void object(JsonParser json) throws IOException {
        isObject = json.nextToken() == JsonToken.START_OBJECT;
        while (isObject && json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            json.nextToken();
            top(name, json);
        }
        if (isObject && json.nextToken() != null) {
            damage = "there is more behind the JSON object";
        }
    }

    /** Reads a top-level name: of Graphema JSON only, with a common meaning, or a field. */
    private void top(String name, JsonParser json) throws IOException {
        switch (json.currentToken()) {
            case VALUE_STRING -> text(name, json.getText());
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> number(name, json);
            case VALUE_TRUE -> bool(name);
            case START_OBJECT -> object(name, json);
            case VALUE_NULL -> nothing(name, json);
            default -> field(name, json, draft.writer());
        }
    }

    /** An event without a time is written with null. */
    private void nothing(String name, JsonParser json) throws IOException {
        if (!JsonMember.TIME.is(name)) {
            field(name, json, draft.writer());
        }
    }

    private void text(String name, String value) {
        if (JsonMember.ID.is(name) && EVENT_ID.matcher(value).matches()) {
            draft.run(value.substring(0, value.indexOf('-')));
        } else if (!JsonMember.FINGERPRINT.is(name)) { // that follows from the failure
            assembly.take(name, value);
        }
    }

    private void number(String name, JsonParser json) throws IOException {
        boolean whole = json.currentToken() == JsonToken.VALUE_NUMBER_INT;
        if (whole && JsonMember.SEQUENCE.is(name)) {
            draft.sequence(json.getLongValue());
        } else if (whole && JsonMember.WEIGHT.is(name) && json.getLongValue() > 0) {
            draft.weight(json.getLongValue());
        } else { // another program's weight is a field
            assembly.take(name, number(json));
        }
    }

    private void bool(String name) {
        if (JsonMember.REPEAT.is(name)) {
            draft.repeat(true);
        } else if (JsonMember.HELD.is(name)) {
            draft.held(true);
        } else {
            draft.writer().put(name, true);
        }
    }

    private void object(String name, JsonParser json) throws IOException {
        if (JsonMember.FAILURE.is(name)) {
            draft.failure(failure(json));
        } else if (JsonMember.FIELDS.is(name)) {
            fields(json, draft.writer());
        } else if (LineAttribute.isGroup(name)) {
            while (json.nextToken() != JsonToken.END_OBJECT) {
                String inside = name + "." + json.currentName();
                json.nextToken();
                assembly.take(inside, value(json));
            }
        } else {
            field(name, json, draft.writer());
        }
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

    /** Returns a duration that was written as one; other texts unchanged. */
    public static Object meaning(String value) {
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
        if (json.isNaN()) {
            return json.getText();
        }
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
                case CAUSE -> cause = failure(json);
                default -> {
                    while (json.nextToken() == JsonToken.START_OBJECT) {
                        suppressed.add(failure(json));
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
