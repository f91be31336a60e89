package dev.graphema.query.line;

import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Reads of a line in our own form what is looked at, and steps over the rest: several times faster than reading all of it. Whatever is out of the
 * ordinary, such as an escape in a text that is looked at, a group, or a name that our form does not have there, it leaves to {@link JsonLine}, by
 * answering null; so it never has to be right about more than it understands. It has one event, which it fills again for each line. For one thread.
 */
public final class OwnLine extends Cursor {
    private static final long SECOND = 1_000_000_000L;
    private static final int DATE_LENGTH = 10;
    private static final int TRACE_LENGTH = 32;
    private static final int NONE = -1;
    private static final int PART = -2;

    /** What may follow the level, in the order in which it is written. */
    private enum Part {
        SERVICE(Attribute.SERVICE),
        INSTANCE(Attribute.INSTANCE),
        LOGGER(Attribute.LOGGER),
        MESSAGE(Attribute.MESSAGE),
        TRACE(Attribute.TRACE),
        SPAN(Attribute.SPAN),
        PARENT(Attribute.PARENT),
        THREAD(Attribute.THREAD),
        SEQUENCE(Attribute.SEQUENCE),
        ID(Attribute.EVENT_ID),
        REPEAT(Attribute.EVENT_REPEAT),
        HELD(Attribute.HELD),
        WEIGHT(Attribute.WEIGHT),
        FIELDS(null),
        FINGERPRINT(null),
        FAILURE(null);

        private final Attribute attribute;

        /** The name and the quote behind it, and the first eight bytes of that. */
        private final byte[] name;

        private final long word;
        private final long mask;

        Part(Attribute attribute) {
            this.attribute = attribute;
            this.name = (name().toLowerCase(Locale.ROOT) + "\"").getBytes(StandardCharsets.US_ASCII);
            this.mask = name.length >= Long.BYTES ? -1 : (1L << name.length * Byte.SIZE) - 1;
            byte[] first = Arrays.copyOf(name, Long.BYTES);
            this.word = Bytes.word(first, 0);
        }
    }

    private static final Part[] PARTS = Part.values();
    private static final Level[] LEVELS = Level.values();

    /** The shortest thing that may follow a comma: {@code "id":"a-1"}. */
    private static final int SHORTEST = Long.BYTES + 1;

    private static final byte[] FIELDS = ",\"fields\":".getBytes(StandardCharsets.US_ASCII);
    private static final long WEIGHT_END = Bytes.word("\"weight\":".getBytes(StandardCharsets.US_ASCII), 1);

    private final boolean[] wanted = new boolean[PARTS.length];

    /** Behind the last part before the fields that is looked at. */
    private final int behindWanted;

    private final byte[][] fields;
    private final String[] fieldNames;
    private final TextCache texts = new TextCache();
    private final Draft draft;
    private final byte[] date = new byte[DATE_LENGTH];
    private long dateNanos;

    /** @param projection what is looked at; not everything */
    public OwnLine(Projection projection) {
        List<byte[]> names = new ArrayList<>();
        projection.fields().forEach(name -> names.add(name.getBytes(StandardCharsets.UTF_8)));
        this.fields = names.toArray(new byte[0][]);
        this.fieldNames = projection.fields().toArray(new String[0]);
        this.draft = Draft.ofWritten(fields.length);
        for (Part part : PARTS) {
            wanted[part.ordinal()] = part.attribute != null && projection.has(part.attribute);
        }
        wanted[Part.FIELDS.ordinal()] = fields.length > 0;
        wanted[Part.FINGERPRINT.ordinal()] = projection.hasFailure();
        wanted[Part.FAILURE.ordinal()] = projection.hasFailure();
        int behind = 0;
        for (int i = 0; i < PARTS.length; i++) {
            // Whether fields come is found out anyhow, and their weight.
            behind = wanted[i] && i != Part.FIELDS.ordinal() && i != Part.WEIGHT.ordinal() ? i + 1 : behind;
        }
        behindWanted = behind;
    }

    /** The event with what is looked at, which is good until the next call, or null when the line has to be read as a whole. */
    public Event read(byte[] line, int from, int to) {
        if (to - from <= OwnForm.LEVEL_AT || !OwnForm.hasLevel(line, from) || !OwnForm.hasTime(line, from)) {
            return null;
        }
        set(line, from, to);
        long time = time(from + OwnForm.TIME_AT);
        if (time == NO_NUMBER) {
            return null;
        }
        draft.again().time(time);
        at = from + OwnForm.LEVEL_AT;
        if (!level()) {
            return null;
        }
        return parts() && at == end - 1 && bytes[at] == '}' ? draft.finish() : null;
    }

    private boolean level() {
        for (Level level : LEVELS) {
            String text = level.text();
            if (bytes[at] == text.charAt(0)) {
                draft.level(level);
                return literal(text) && take('"');
            }
        }
        return false;
    }

    private boolean parts() {
        int trace = -1;
        int next = 0;
        boolean mayJump = true;
        while (true) {
            if (mayJump && next >= behindWanted) {
                mayJump = false;
                jump();
            }
            if (!take(',')) {
                return true;
            }
            next = part(next);
            if (next == NONE) {
                return false;
            }
            Part part = PARTS[next++];
            if (part == Part.TRACE) {
                if (!text() || at - 1 - textFrom != TRACE_LENGTH) {
                    return false;
                }
                trace = textFrom;
                if (wanted[Part.TRACE.ordinal()] && !trace(trace)) {
                    return false;
                }
            } else if (part == Part.WEIGHT) {
                long weight = number();
                if (weight < 0 || trace >= 0 && !trace(trace)) {
                    return false;
                }
                draft.weight(weight);
            } else if (!part(part)) {
                return false;
            }
        }
    }

    /**
     * Goes to the fields, or the end, over parts that are not looked at, when it is sure that there is no weight among them. The first brace is that of
     * the fields when their name stands before it: unless there is a backslash, a quote begins or ends a text, and one that ends before a colon is a name.
     */
    private void jump() {
        int brace = Bytes.indexOf('{', '\\', bytes, at, end);
        int to = brace < 0 ? end - 1 : brace - FIELDS.length;
        if (to <= at
                || brace >= 0 && (bytes[brace] != '{' || !matches(to, FIELDS.length, FIELDS))
                || isBehindWeight(to)) {
            return;
        }
        boolean isOver = brace < 0
                || !wanted[Part.FIELDS.ordinal()] && Bytes.indexOf('{', '}', bytes, brace + 1, end) == end - 2;
        at = isOver ? end - 1 : to;
    }

    private boolean isBehindWeight(int position) {
        int digits = position;
        while (bytes[digits - 1] >= '0' && bytes[digits - 1] <= '9') {
            digits--;
        }
        return digits < position && Bytes.word(bytes, digits - Long.BYTES) == WEIGHT_END;
    }

    /** Steps over a name; which it is among those that may still come, or {@link #NONE}. */
    private int part(int from) {
        if (at + SHORTEST > end || bytes[at] != '"') {
            return NONE;
        }
        long word = Bytes.word(bytes, at + 1);
        for (int i = from; i < PARTS.length; i++) {
            Part part = PARTS[i];
            if ((word & part.mask) == part.word) {
                byte[] name = part.name;
                int behind = at + 1 + name.length;
                if (behind >= end || bytes[behind] != ':' || !ends(name)) {
                    return NONE;
                }
                at = behind + 1;
                return i;
            }
        }
        return NONE;
    }

    /** Whether the name that begins there goes on like that one behind its first eight bytes. */
    private boolean ends(byte[] name) {
        for (int i = Long.BYTES; i < name.length; i++) {
            if (bytes[at + 1 + i] != name[i]) {
                return false;
            }
        }
        return true;
    }

    private boolean part(Part part) {
        boolean isWanted = wanted[part.ordinal()];
        return switch (part) {
            case SEQUENCE -> {
                long number = number();
                draft.sequence(number);
                yield number >= 0;
            }
            case REPEAT -> {
                draft.repeat(true);
                yield literal("true");
            }
            case HELD -> {
                draft.held(true);
                yield literal("true");
            }
            case FIELDS -> isWanted ? fields() : skip();
            case ID, FINGERPRINT, FAILURE -> !isWanted && skip();
            default -> text() && (!isWanted || !hasEscape && set(part));
        };
    }

    private boolean trace(int from) {
        TraceId id = TraceId.parse(new String(bytes, from, TRACE_LENGTH, StandardCharsets.ISO_8859_1));
        Event soFar = draft.soFar();
        draft.trace(id, soFar.span(), soFar.parent());
        return id != null;
    }

    private boolean set(Part part) {
        String value = texts.get(bytes, textFrom, at - 1);
        switch (part) {
            case SERVICE -> draft.service(value);
            case INSTANCE -> draft.instance(value);
            case LOGGER -> draft.logger(value);
            case MESSAGE -> draft.message(value);
            case THREAD -> draft.thread(value);
            case SPAN -> {
                SpanId span = SpanId.parse(value);
                draft.trace(draft.soFar().trace(), span, draft.soFar().parent());
                return span != null;
            }
            case PARENT -> {
                SpanId parent = SpanId.parse(value);
                draft.trace(draft.soFar().trace(), draft.soFar().span(), parent);
                return parent != null;
            }
            default -> {
                return false;
            }
        }
        return true;
    }

    private boolean fields() {
        if (!take('{')) {
            return false;
        }
        if (take('}')) {
            return true;
        }
        while (true) {
            int key = name();
            if (key < 0) {
                return false;
            }
            int length = at - key - 2;
            int wanted = wanted(key, length);
            if (wanted == PART || wanted >= 0 && !value(fieldNames[wanted]) || wanted == NONE && !skip()) {
                return false;
            }
            if (!take(',')) {
                return take('}');
            }
        }
    }

    /** The index of the field that is looked at, {@link #NONE}, or {@link #PART} for a group of which something is. */
    private int wanted(int key, int length) {
        for (int i = 0; i < fields.length; i++) {
            byte[] name = fields[i];
            if (name.length >= length && matches(key, length, name)) {
                if (name.length == length) {
                    return i;
                }
                if (name[length] == '.') {
                    return PART;
                }
            }
        }
        return NONE;
    }

    private boolean value(String name) {
        if (at >= end) {
            return false;
        }
        int from = at;
        switch (bytes[at]) {
            case '"' -> {
                if (!text() || hasEscape) {
                    return false;
                }
                String value = texts.get(bytes, textFrom, at - 1);
                Object meaning = JsonLine.meaning(value);
                if (meaning instanceof Duration duration) {
                    draft.writer().put(name, (Object) duration);
                } else {
                    draft.writer().put(name, value);
                }
                return true;
            }
            case 't' -> {
                draft.writer().put(name, true);
                return literal("true");
            }
            case 'f' -> {
                draft.writer().put(name, false);
                return literal("false");
            }
            default -> {
                long number = number();
                if (at == from || number == NO_NUMBER) {
                    return false;
                }
                draft.writer().put(name, number);
                return true;
            }
        }
    }

    /** The time of the line, whose shape is known; its day is worked out once. */
    private long time(int from) {
        boolean isSameDay = dateNanos != 0
                && Bytes.word(bytes, from) == Bytes.word(date, 0)
                && bytes[from + 8] == date[8]
                && bytes[from + 9] == date[9];
        if (!isSameDay) {
            System.arraycopy(bytes, from, date, 0, DATE_LENGTH);
            try {
                dateNanos = LocalDate.of(digits(from, 4), digits(from + 5, 2), digits(from + 8, 2))
                                .toEpochDay()
                        * 86_400
                        * SECOND;
            } catch (DateTimeException e) {
                dateNanos = 0;
                return NO_NUMBER;
            }
        }
        int hours = digits(from + 11, 2);
        int minutes = digits(from + 14, 2);
        int seconds = digits(from + 17, 2);
        if (hours > 23 || minutes > 59 || seconds > 59) {
            return NO_NUMBER;
        }
        long nanos = Bytes.eightDigits(bytes, from + 20) * 10 + bytes[from + 28] - '0';
        return dateNanos + (hours * 3_600L + minutes * 60L + seconds) * SECOND + nanos;
    }

    private int digits(int from, int count) {
        int number = 0;
        for (int i = from; i < from + count; i++) {
            number = number * 10 + bytes[i] - '0';
        }
        return number;
    }
}
