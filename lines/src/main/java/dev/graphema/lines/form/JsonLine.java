package dev.graphema.lines.form;

import com.fasterxml.jackson.core.JsonFactory;
import com.fasterxml.jackson.core.JsonParser;
import com.fasterxml.jackson.core.JsonToken;
import com.fasterxml.jackson.core.StreamReadConstraints;
import com.fasterxml.jackson.core.json.JsonReadFeature;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.shape.LinePlace;
import dev.graphema.lines.shape.LineShape;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.HashSet;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Reads events from lines that are JSON objects: in the form of {@link dev.graphema.format.JsonLines}, or in that of
 * another program, by the common meaning of names. For one thread.
 *
 * <p>A line that begins as an object is an event. Of a damaged one, all values are read that can be recognised, before and
 * after the damage, which {@link #damage} describes; of a repeated name, the values are a list. Control characters in texts, backslashes before any character, numbers with leading zeros, and bytes that are not
 * UTF-8, which become U+FFFD, are accepted. An object without a time is an event without a time.
 */
public final class JsonLine {
    static final JsonFactory JSON = JsonFactory.builder()
            .streamReadConstraints(StreamReadConstraints.builder()
                    .maxNestingDepth(200)
                    .maxStringLength(LineShape.MAX_LINE)
                    .maxNumberLength(JsonValues.MOST_OF_A_NUMBER)
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

    /** The most damaged parts of a line behind which reading continues. */
    private static final int MOST_DAMAGED_PARTS = 50;

    private final EventAssembler assembly;
    private final JsonValues values;

    private Draft draft;
    private boolean isOwn;

    /** Reads names with their common meaning. */
    public JsonLine() {
        this(LineShape.USUAL);
    }

    public JsonLine(LineShape shape) {
        this(shape, null, null);
    }

    /** @param place the place of each line; null if no question asks for it */
    public JsonLine(LineShape shape, LinePlace place) {
        this(shape, null, place);
    }

    /**
     * A reader that passes on what it reads.
     *
     * @param observer receives all values, too; null for none
     */
    JsonLine(LineShape shape, LineValues observer) {
        this(shape, observer, null);
    }

    private JsonLine(LineShape shape, LineValues observer, LinePlace place) {
        assembly = new EventAssembler(shape, observer, place);
        values = new JsonValues(assembly::damaged);
    }

    /**
     * Reads the event of a line.
     *
     * @param place the time that determines the position of an event without a time, in nanoseconds since 1970
     * @param isOwn whether it was written by Graphema
     * @throws UnreadableLineException if the bytes do not begin as a JSON object
     */
    public Event read(byte[] bytes, int from, int to, long place, boolean isOwn) throws UnreadableLineException {
        if (from >= to || bytes[from] != '{') {
            throw new UnreadableLineException("expected a JSON object");
        }
        this.isOwn = isOwn;
        draft = assembly.begin(isOwn);
        if (!isObject(bytes, from, to)) {
            readDamaged(bytes, from, to);
        }
        Draft complete = assembly.finish(place);
        assembly.parts(complete);
        return complete.finish();
    }

    /** Returns what is wrong with the last line; null for nothing. */
    public LineDamage damage() {
        return assembly.damage();
    }

    /**
     * Reads a line without damage.
     *
     * @return false if it is damaged; then it must be read again
     */
    private boolean isObject(byte[] bytes, int from, int to) {
        try (JsonParser json = JSON.createParser(bytes, from, to - from)) {
            json.nextToken();
            members(json);
            return json.nextToken() == null;
        } catch (IOException e) {
            return false;
        }
    }

    /** Reads all parts of a line that can be read, with U+FFFD instead of bytes that are not UTF-8. */
    private void readDamaged(byte[] bytes, int from, int to) {
        draft = assembly.begin(isOwn);
        String line = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        int at = 0;
        for (int parts = 0; at >= 0 && parts < MOST_DAMAGED_PARTS; parts++) {
            at = readPart(at == 0 ? line : "{" + line.substring(at), line.length() - at, line);
        }
        if (at >= 0) {
            assembly.rest(line.substring(at));
        }
        if (line.indexOf('\uFFFD') >= 0) {
            assembly.damaged(LineDamage.NOT_UTF8);
        }
    }

    /**
     * Reads members up to the next damage.
     *
     * @param part the rest of the line, in a form that begins as an object
     * @param left the number of characters of the line in it
     * @return where reading continues in the line; -1 if at its end
     */
    private int readPart(String part, int left, String line) {
        int before = line.length() - left;
        int added = part.length() - left;
        String name = null;
        values.begin();
        JsonParser json = null;
        try (JsonParser parser = JSON.createParser(part)) {
            json = parser;
            parser.nextToken();
            while (parser.nextToken() != JsonToken.END_OBJECT) {
                name = parser.currentName();
                values.begin();
                parser.nextToken();
                top(name, parser);
                name = null;
            }
            int end = (int) parser.currentLocation().getCharOffset() - added + before;
            if (line.substring(end).isBlank()) {
                return -1;
            }
            assembly.damaged(LineDamage.MORE_BEHIND);
            int next = DamagedJson.nextMember(line, end);
            assembly.rest(DamagedJson.part(line, end, next));
            return next;
        } catch (IOException e) {
            int place = DamagedJson.place(e, json);
            int at = Math.min(line.length(), Math.max(0, place - added) + before);
            int next = DamagedJson.nextMember(line, at);
            boolean isCutOff = next < 0 && !line.endsWith("}");
            assembly.damaged(isCutOff ? LineDamage.CUT_OFF : LineDamage.NOT_JSON);
            boolean isRead = hasDamagedValue(name, line, before, at);
            if (!isCutOff || !isRead) {
                int token = json == null
                        ? before
                        : (int) json.currentTokenLocation().getCharOffset() - added + before;
                int begin = Math.max(before, Math.min(token, DamagedJson.afterComma(line, at)));
                assembly.rest(DamagedJson.part(line, begin, next));
            }
            return next;
        }
    }

    /**
     * Adds what can be read of a damaged value.
     *
     * @param name its name; null if the parser does not know it
     * @return whether that is all of it
     */
    private boolean hasDamagedValue(String name, String line, int from, int at) {
        if (values.begun() != null) {
            assembly.take(name, values.begun());
            return false;
        }
        String open = name == null ? DamagedJson.openName(line, from, at) : name;
        if (open != null) {
            assembly.replace(open, DamagedJson.valueOf(open, line, from, at));
        }
        return open != null;
    }

    private void members(JsonParser json) throws IOException {
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            json.nextToken();
            top(name, json);
        }
    }

    /** Reads a top-level name: of Graphema JSON only, with a common meaning, or a field. */
    private void top(String name, JsonParser json) throws IOException {
        switch (json.currentToken()) {
            case VALUE_STRING -> text(name, json.getText());
            case VALUE_NUMBER_INT, VALUE_NUMBER_FLOAT -> number(name, json);
            case VALUE_TRUE -> bool(name);
            case START_OBJECT -> object(name, json);
            case VALUE_NULL -> nothing(name);
            default -> assembly.take(name, values.value(json));
        }
    }

    /** An event without a time is written with null. */
    private void nothing(String name) {
        if (!JsonMember.TIME.is(name)) {
            assembly.take(name, null);
        }
    }

    private void text(String name, String value) {
        if (JsonMember.ID.is(name) && EVENT_ID.matcher(value).matches()) {
            draft.run(value.substring(0, value.indexOf('-')));
            draft.sequence(Long.parseLong(value.substring(value.indexOf('-') + 1)));
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
            assembly.take(name, JsonValues.number(json));
        }
    }

    private void bool(String name) {
        if (JsonMember.REPEAT.is(name)) {
            draft.repeat(true);
        } else if (JsonMember.HELD.is(name)) {
            draft.held(true);
        } else {
            assembly.take(name, true);
        }
    }

    private void object(String name, JsonParser json) throws IOException {
        if (JsonMember.FAILURE.is(name)) {
            draft.failure(JsonFailure.read(json));
        } else if (JsonMember.FIELDS.is(name)) {
            fields(json);
        } else {
            assembly.take(name, values.value(json));
        }
    }

    private void fields(JsonParser json) throws IOException {
        Set<String> names = isOwn ? null : new HashSet<>();
        while (json.nextToken() != JsonToken.END_OBJECT) {
            String name = json.currentName();
            json.nextToken();
            assembly.field(name, values.value(json));
            if (!isOwn && !names.add(name)) {
                assembly.damaged(LineDamage.REPEATED_NAME);
            }
        }
    }
}
