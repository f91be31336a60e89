package dev.graphema.lines.json;

import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.JsonValues;
import dev.graphema.query.row.Projection;
import dev.graphema.text.Hex;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;

/**
 * Reads the projected values of a line in Graphema JSON, and skips the others, which is several times faster than
 * reading all of it. It rejects unusual lines, for example with an escape in a projected text, a group, or an
 * unexpected name; {@link JsonLine} then reads them. Names are expected in their usual form, and skipped values are not
 * checked. The values are valid until the next line. For one thread.
 */
public final class ProjectedLine extends PartialLine {
    private static final int TRACE_LENGTH = 32;
    private static final int FINGERPRINT_LENGTH = 16;
    private static final int NONE = -1;
    private static final int PART = -2;

    private static final JsonPart[] PARTS = JsonPart.ALL;

    /** The levels by their first letters, which are different. */
    private static final Level[] LEVELS = new Level['z' + 1];

    private static final NameBytes[] LEVEL_KEYS = new NameBytes[LEVELS.length];

    static {
        for (Level level : Level.values()) {
            LEVELS[level.text().charAt(0)] = level;
            LEVEL_KEYS[level.text().charAt(0)] = new NameBytes(level.text());
        }
    }

    /** A shorter line contains only time and level. */
    private static final int SHORTEST_LINE = LinePrefix.LEVEL_AT + 2 * Long.BYTES;

    private static final byte[] FIELDS = JsonMember.FIELDS.following().getBytes(StandardCharsets.US_ASCII);
    private static final byte[] BEGIN_OF_FAILURE = (JsonMember.FAILURE.following() + "{\""
                    + JsonMember.OfFailure.TYPE.text() + "\":")
            .getBytes(StandardCharsets.US_ASCII);
    private static final LineFilter WEIGHT = new LineFilter.TextFilter('"' + JsonMember.WEIGHT.text() + "\":");

    /** The index of the name of each part, or {@link #NONE}. */
    private final int[] places = new int[PARTS.length];

    private final int levelPlace;
    private final int fingerprintPlace;
    /** Whether type or message of the failure are projected. */
    private final boolean isFailureWanted;

    /** After the last projected part before the fields. */
    private final int behindWanted;

    /** How many parts are projected. A weight is not counted: whether there is one is found out anyhow. */
    private final int wanted;

    /** The projected fields, and the indexes of their names. */
    private final NameBytes[] fields;

    private final int[] fieldPlaces;

    /** Groups that contain projected fields. */
    private final NameBytes[] groups;

    private final JsonTime time = new JsonTime();

    /** @param projection the values to read; not all */
    public ProjectedLine(Projection projection) {
        super(projection);
        List<NameBytes> keys = new ArrayList<>();
        List<NameBytes> outer = new ArrayList<>();
        fieldPlaces = new int[names.length];
        for (int i = 0; i < names.length; i++) {
            String field = names[i].field();
            if (field == null) {
                continue;
            }
            fieldPlaces[keys.size()] = i;
            keys.add(new NameBytes(field));
            for (int dot = field.indexOf('.'); dot >= 0; dot = field.indexOf('.', dot + 1)) {
                outer.add(new NameBytes(field.substring(0, dot)));
            }
        }
        fields = keys.toArray(new NameBytes[0]);
        groups = outer.toArray(new NameBytes[0]);
        levelPlace = projection.place(Attribute.LEVEL);
        fingerprintPlace = projection.place(Attribute.FAILURE_FINGERPRINT);
        isFailureWanted =
                projection.place(Attribute.FAILURE_TYPE) != NONE || projection.place(Attribute.FAILURE_MESSAGE) != NONE;
        int behind = 0;
        int count = 0;
        for (int i = 0; i < PARTS.length; i++) {
            JsonPart part = PARTS[i];
            places[i] = part.attribute() == null ? NONE : projection.place(part.attribute());
            if (isWanted(part.member())) {
                behind = i + 1;
                count++;
            }
        }
        behindWanted = behind;
        wanted = count;
    }

    private boolean isWanted(JsonMember part) {
        return switch (part) {
            case WEIGHT -> false;
            case FAILURE -> isFailureWanted;
            default -> places[JsonPart.index(part)] != NONE;
        };
    }

    @Override
    boolean readValues(byte[] line, int from, int to) {
        if (to - from < SHORTEST_LINE || !LinePrefix.isTimed(line, from, time)) {
            return false;
        }
        set(line, from + LinePrefix.LEVEL_AT, to);
        projected.clear();
        return level() && parts() && at == end - 1 && bytes[at] == '}';
    }

    @Override
    public long time() {
        return time.epochNanos();
    }

    private boolean level() {
        int letter = bytes[at];
        NameBytes key = letter < 0 || letter >= LEVEL_KEYS.length ? null : LEVEL_KEYS[letter];
        if (key == null || !key.isAt(bytes, at, end)) {
            return false;
        }
        at += key.length();
        projected.level(LEVELS[letter]);
        if (levelPlace != NONE) {
            values[levelPlace] = LEVELS[letter].text();
        }
        return true;
    }

    private boolean parts() {
        int traceAt = -1;
        int next = 0;
        int found = 0;
        boolean mayJump = true;
        while (true) {
            // A part that is missing here may be behind others in lines of other writers.
            if (mayJump && next >= behindWanted && found == wanted) {
                mayJump = false;
                int brace = braceOfLastFields();
                if (brace >= 0) {
                    return fieldsBehind(brace);
                }
            }
            if (!take(',')) {
                return true;
            }
            next = part(next);
            if (next == NONE) {
                return false;
            }
            JsonMember part = PARTS[next++].member();
            found += isWanted(part) ? 1 : 0;
            if (part == JsonMember.TRACE) {
                if (!text() || at - 1 - textFrom != TRACE_LENGTH) {
                    return false;
                }
                traceAt = textFrom;
                if (places[JsonPart.index(JsonMember.TRACE)] != NONE && !trace(traceAt)) {
                    return false;
                }
            } else if (part == JsonMember.WEIGHT) {
                long weight = number();
                projected.weight(weight);
                if (weight < 1 || traceAt >= 0 && !trace(traceAt)) {
                    return false;
                }
            } else if (!part(part)) {
                return false;
            }
        }
    }

    /**
     * Returns the brace of the fields if they are the last part and there is no weight among those before them; or -1. The last
     * opening brace is that of the fields if their name precedes it and only they and the line are closed after it: in
     * a text, the quotes of a name would be escaped. Without this, percentiles of a field take 1.2 times as long.
     */
    private int braceOfLastFields() {
        int brace = Bytes.lastIndexOf('{', '}', bytes, at, end - 2);
        int name = brace - FIELDS.length;
        boolean isSure = name > at
                && bytes[brace] == '{'
                && bytes[end - 2] == '}'
                && Bytes.areAt(FIELDS, bytes, name, brace)
                && !WEIGHT.mayMatch(bytes, at, name);
        return isSure ? brace : -1;
    }

    /** Reads the projected fields, none of which is in a group, and moves to the end of the line. */
    private boolean fieldsBehind(int brace) {
        for (int i = 0; i < fields.length; i++) {
            int value = fields[i].valueIn(bytes, brace + 1, end - 2);
            if (value >= 0) {
                at = value;
                if (!fieldValue(i)) {
                    return false;
                }
            }
        }
        at = end - 1;
        return true;
    }

    /**
     * Skips a name.
     *
     * @return its index among those that may follow, or {@link #NONE}
     */
    private int part(int from) {
        if (take('"')) {
            for (int i = from; i < PARTS.length; i++) {
                NameBytes key = PARTS[i].key();
                if (key.isAt(bytes, at, end)) {
                    at += key.length();
                    return take(':') ? i : NONE;
                }
            }
        }
        return NONE;
    }

    private boolean part(JsonMember part) {
        int place = places[JsonPart.index(part)];
        return switch (part) {
            case SEQUENCE -> {
                long number = number();
                set(place, number);
                yield number >= 0;
            }
            case REPEAT, HELD -> {
                set(place, true);
                yield literal("true");
            }
            case FIELDS -> fields.length > 0 ? fields() : skip();
            case ID -> place == NONE && skip();
            case FINGERPRINT -> text() && (place == NONE || fingerprint(place));
            // The fingerprint follows from the failure if it was not written.
            case FAILURE ->
                !isFailureWanted && (fingerprintPlace == NONE || values[fingerprintPlace] != null) && skip();
            default -> text() && (place == NONE || !hasEscape && text(part, place));
        };
    }

    private void set(int place, Object value) {
        if (place != NONE) {
            values[place] = value;
        }
    }

    private boolean text(JsonMember part, int place) {
        String text = string();
        values[place] = part == JsonMember.SPAN || part == JsonMember.PARENT ? SpanId.parse(text) : text;
        return values[place] != null;
    }

    /** Accepts only the form that Graphema writes, with a failure behind it. */
    private boolean fingerprint(int place) {
        String digits = string();
        boolean isUsual = digits.length() == FINGERPRINT_LENGTH
                && Hex.isHex(digits)
                && Bytes.areAt(BEGIN_OF_FAILURE, bytes, at, end);
        values[place] = isUsual ? digits : null;
        return isUsual;
    }

    private boolean trace(int from) {
        TraceId trace = TraceId.parse(new String(bytes, from, TRACE_LENGTH, StandardCharsets.ISO_8859_1));
        projected.trace(trace);
        set(places[JsonPart.index(JsonMember.TRACE)], trace);
        return trace != null;
    }

    private boolean fields() {
        if (!take('{')) {
            return false;
        }
        if (take('}')) {
            return true;
        }
        while (true) {
            int field = field();
            if (field == PART || field >= 0 && !fieldValue(field) || field == NONE && (name() < 0 || !skip())) {
                return false;
            }
            if (!take(',')) {
                return take('}');
            }
        }
    }

    /**
     * Skips the name of a field.
     *
     * @return its index, {@link #NONE}, or {@link #PART} for a group with projected fields
     */
    private int field() {
        for (int i = 0; i < fields.length; i++) {
            NameBytes key = fields[i];
            if (key.isAt(bytes, at + 1, end)) {
                at += 1 + key.length();
                return take(':') ? i : PART;
            }
        }
        for (NameBytes group : groups) {
            if (group.isAt(bytes, at + 1, end)) {
                return PART;
            }
        }
        return NONE;
    }

    private boolean fieldValue(int field) {
        if (at >= end) {
            return false;
        }
        int place = fieldPlaces[field];
        switch (bytes[at]) {
            case '"' -> {
                values[place] = text() && !hasEscape ? JsonValues.meaning(string()) : null;
                return values[place] != null;
            }
            case 't' -> {
                values[place] = true;
                return literal("true");
            }
            case 'f' -> {
                values[place] = false;
                return literal("false");
            }
            default -> {
                long number = number();
                values[place] = number;
                return number != NO_NUMBER;
            }
        }
    }
}
