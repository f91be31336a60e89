package dev.graphema.lines.json;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.lines.form.JsonValues;
import dev.graphema.lines.shape.Levels;
import dev.graphema.lines.shape.LineAttribute;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.Projection;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Map;

/**
 * Reads the projected values of a line in another program's JSON, by the meaning of its names, and skips the others, after
 * checking that they are valid. It rejects unusual lines: damaged ones, those with repeated names, without a time, or with
 * escapes in a projected text; {@link dev.graphema.lines.form.JsonLine} then reads them. The level tally of 600 MB
 * takes a fifth of the time that it takes by that reader. For one thread.
 */
public final class ForeignLine extends PartialLine {
    /** The attributes that are texts. */
    private static final Map<Attribute, LineAttribute> TEXTS = Map.of(
            Attribute.MESSAGE, LineAttribute.MESSAGE,
            Attribute.LOGGER, LineAttribute.LOGGER,
            Attribute.SERVICE, LineAttribute.SERVICE,
            Attribute.INSTANCE, LineAttribute.INSTANCE,
            Attribute.THREAD, LineAttribute.THREAD);

    private static final int DEEPEST = 100;
    private static final int LONGEST_WHOLE = 18;
    private static final int LONGEST_NUMBER = 1_000;
    private static final int NO_RANK = Integer.MAX_VALUE;

    private final ForeignName root;
    private final ForeignTime times;
    private final int levelPlace;

    /** The index of each attribute that is a text; negative if it is not projected. */
    private final int[] places = new int[LineAttribute.values().length];

    /** The rank of the name from which each attribute was read. */
    private final int[] ranks = new int[places.length];

    private long time;

    /** Whether a value of a name that leaves doubt was skipped: it counts if there is no other. */
    private boolean isDoubtful;

    private ForeignLine(Projection projection, LineShape shape) {
        super(projection);
        root = new ForeignName(shape, names);
        times = new ForeignTime(shape.times());
        levelPlace = projection.place(Attribute.LEVEL);
        Arrays.fill(places, -1);
        TEXTS.forEach((attribute, in) -> places[in.ordinal()] = projection.place(attribute));
    }

    /**
     * Returns a reader of these values; null if one of them needs complete lines.
     *
     * @param projection not all values
     */
    public static ForeignLine of(Projection projection, LineShape shape) {
        for (Name name : projection.listed()) {
            Attribute attribute = name.attribute();
            boolean isSupported = attribute == null
                    || attribute == Attribute.LEVEL
                    || attribute == Attribute.TIME
                    || attribute == Attribute.WEIGHT
                    || TEXTS.containsKey(attribute);
            if (!isSupported) {
                return null;
            }
        }
        return new ForeignLine(projection, shape);
    }

    @Override
    boolean readValues(byte[] line, int from, int to) {
        if (to - from < 2 || line[from] != '{' || line[to - 1] != '}' || !Utf8.isValid(line, from, to)) {
            return false;
        }
        set(line, from, to);
        projected.clear();
        time = ForeignTime.NONE;
        isDoubtful = false;
        Arrays.fill(ranks, NO_RANK);
        root.beginLine();
        boolean isComplete = object(root, 0, true) && at == end && time != ForeignTime.NONE;
        return isComplete && (!isDoubtful || projected.level() != null);
    }

    @Override
    public long time() {
        return time;
    }

    /**
     * Reads or skips an object.
     *
     * @param isRead whether its values are read
     */
    private boolean object(ForeignName group, int depth, boolean isRead) {
        int object = group.begin();
        ForeignName member = null;
        at++;
        space();
        if (take('}')) {
            return true;
        }
        while (take('"')) {
            member = group.member(member, bytes, at, end, object);
            if (member == null) {
                return false;
            }
            at += member.length();
            space();
            if (!take(':')) {
                return false;
            }
            space();
            if (!(isRead ? value(member, depth) : skip(member, depth))) {
                return false;
            }
            space();
            if (!take(',')) {
                return take('}');
            }
            space();
        }
        return false;
    }

    private void space() {
        while (at < end && (bytes[at] == ' ' || bytes[at] == '\t')) {
            at++;
        }
    }

    private boolean value(ForeignName name, int depth) {
        if (name.isSpecial || at >= end) {
            return false;
        }
        boolean isAttribute = !name.meaning.isField();
        if (bytes[at] == '{') {
            return name.place < 0 && depth < DEEPEST && object(name, depth + 1, true);
        }
        if (name.place >= 0) {
            int from = at;
            boolean isRead = !name.meaning.isLoose() && values[name.place] == null && projected(name);
            if (!isRead || !isAttribute) {
                return isRead;
            }
            at = from; // it is an attribute as well
        }
        if (!isAttribute || bytes[at] == '[') {
            return !(name.isWithin && bytes[at] == '[') && skip(name, depth);
        }
        return switch (name.meaning.attribute()) {
            case TIME -> time(name, depth);
            case LEVEL -> level(name, depth);
            case MESSAGE, LOGGER, SERVICE, INSTANCE, THREAD -> text(name, depth);
            default -> skip(name, depth);
        };
    }

    private boolean projected(ForeignName name) {
        int place = name.place;
        switch (bytes[at]) {
            case '"' -> {
                if (text() && !hasEscape) {
                    values[place] = name.meaning.isField() ? JsonValues.meaning(string()) : string();
                }
                return values[place] != null;
            }
            case 't' -> values[place] = true;
            case 'f' -> values[place] = false;
            case 'n' -> {
                return literal("null");
            }
            case '[' -> {
                return false;
            }
            default -> {
                int from = at;
                values[place] = skipNumber() ? numberOf(from, at) : null;
                return values[place] != null;
            }
        }
        return literal(values[place].toString());
    }

    /** Reads a time; of several, the one whose name has the lowest rank. */
    private boolean time(ForeignName name, int depth) {
        boolean isLate = time != ForeignTime.NONE && ranks[LineAttribute.TIME.ordinal()] <= name.meaning.rank();
        if (isLate || name.meaning.isLoose()) {
            return skip(name, depth); // without another time, the line is read completely
        }
        int from = at;
        long read;
        if (bytes[at] == '"') {
            if (!text() || hasEscape) {
                return false;
            }
            read = times.ofText(bytes, textFrom, at - 1);
        } else if (skipNumber()) {
            read = ForeignTime.ofNumber(bytes, from, at);
        } else {
            at = from;
            return skip(name, depth);
        }
        if (read == ForeignTime.NONE) {
            return false;
        }
        time = read;
        ranks[LineAttribute.TIME.ordinal()] = name.meaning.rank();
        return true;
    }

    private boolean level(ForeignName name, int depth) {
        int from = at;
        Object value = null;
        if (bytes[at] == '"') {
            if (!text() || hasEscape) {
                return false;
            }
            value = string();
        } else if (skipNumber()) {
            value = numberOf(from, at);
            if (!(value instanceof Long)) {
                return false;
            }
        } else {
            at = from;
            return skip(name, depth);
        }
        if (name.meaning.isLoose()) {
            isDoubtful |= value instanceof String word && Levels.isWord(word);
            return true;
        }
        Level read = name.level(value);
        if (read != null && name.meaning.rank() < ranks[LineAttribute.LEVEL.ordinal()]) {
            ranks[LineAttribute.LEVEL.ordinal()] = name.meaning.rank();
            projected.level(read);
            if (levelPlace >= 0) {
                values[levelPlace] = read.text();
            }
        }
        return true;
    }

    private boolean text(ForeignName name, int depth) {
        int attribute = name.meaning.attribute().ordinal();
        if (places[attribute] < 0
                || name.meaning.rank() >= ranks[attribute]
                || bytes[at] == 't'
                || bytes[at] == 'f'
                || bytes[at] == 'n') {
            return skip(name, depth);
        }
        if (!text() || hasEscape) {
            return false;
        }
        ranks[attribute] = name.meaning.rank();
        values[places[attribute]] = string();
        return true;
    }

    /** Skips a valid value. */
    private boolean skip(ForeignName name, int depth) {
        if (at >= end) {
            return false;
        }
        return switch (bytes[at]) {
            case '"' -> text() && (!hasEscape || hasValidEscapes());
            case '{' -> depth < DEEPEST && object(name, depth + 1, false);
            case '[' -> depth < DEEPEST && list(name, depth + 1);
            case 't' -> literal("true");
            case 'f' -> literal("false");
            case 'n' -> literal("null");
            default -> skipNumber();
        };
    }

    private boolean list(ForeignName name, int depth) {
        at++;
        space();
        if (take(']')) {
            return true;
        }
        while (skip(name, depth)) {
            space();
            if (!take(',')) {
                return take(']');
            }
            space();
        }
        return false;
    }

    /** Returns whether each escape in the last text that begins with u has four hexadecimal digits. */
    private boolean hasValidEscapes() {
        for (int i = textFrom; i < at - 1; i++) {
            if (bytes[i] == '\\') {
                i++;
                if (bytes[i] == 'u') {
                    for (int digit = i + 1; digit <= i + 4; digit++) {
                        if (digit >= at - 1 || Character.digit(bytes[digit], 16) < 0) {
                            return false;
                        }
                    }
                }
            }
        }
        return true;
    }

    /** Steps over a number as RFC 8259 defines it. */
    private boolean skipNumber() {
        int from = at;
        take('-');
        int whole = digits();
        if (whole == 0 || whole > 1 && bytes[at - whole] == '0') {
            return false;
        }
        if (take('.') && digits() == 0) {
            return false;
        }
        if (at < end && (bytes[at] | 0x20) == 'e') {
            at++;
            if (!take('-')) {
                take('+');
            }
            if (digits() == 0) {
                return false;
            }
        }
        return at - from <= LONGEST_NUMBER;
    }

    /** Returns the number as a long or double without rounding; null if it is neither. */
    private Object numberOf(int from, int to) {
        String text = new String(bytes, from, to - from, StandardCharsets.US_ASCII);
        boolean isWhole = text.indexOf('.') < 0 && text.indexOf('e') < 0 && text.indexOf('E') < 0;
        if (isWhole) {
            return text.length() <= LONGEST_WHOLE ? (Object) Long.parseLong(text) : null;
        }
        return text.length() <= JsonValues.EXACT_LENGTH ? JsonValues.exactDouble(Double.parseDouble(text)) : null;
    }

    private int digits() {
        int from = at;
        while (at < end && bytes[at] >= '0' && bytes[at] <= '9') {
            at++;
        }
        return at - from;
    }
}
