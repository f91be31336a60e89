package dev.graphema.segments;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.JsonValues;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.segments.column.Ids;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;

/** The values that the bytes of a column represent. */
final class ColumnValue {
    private static final byte[] BEFORE_FAILURE = ("{\"" + JsonMember.TIME.text()
                    + "\":\"1970-01-01T00:00:00.000000000Z\"" + JsonMember.FAILURE.following())
            .getBytes(StandardCharsets.US_ASCII);

    private ColumnValue() {}

    /** Returns the value of a code; {@link NameVector#NOT_HERE} if only the complete event has it. */
    static Object of(Column column, Texts texts, int code) {
        return ofText(column, texts.bytes(), texts.from(code), texts.to(code));
    }

    /** As above, of bytes. */
    static Object ofText(Column column, byte[] bytes, int from, int to) {
        boolean isField = column.path().indexOf(Column.SEPARATOR) >= 0;
        if (column.kind() == Kind.ID) {
            return isField || column.path().equals(JsonMember.FINGERPRINT.text())
                    ? digits(bytes, from, to)
                    : id(column, bytes, from, to);
        }
        for (int i = from; i < to; i++) {
            if (bytes[i] == '\\') {
                return NameVector.NOT_HERE;
            }
        }
        String text = new String(bytes, from, to - from, StandardCharsets.UTF_8);
        if (column.kind() == Kind.TEXT) {
            return isField ? JsonValues.meaning(text) : ofEvent(column, text);
        }
        return isField ? number(text) : NameVector.NOT_HERE;
    }

    /** Returns the type or message of a failure, each different one of which is read once. */
    static Object ofFailure(Name name, Texts texts, int code, LineShape shape) {
        byte[] line = new byte[BEFORE_FAILURE.length + texts.to(code) - texts.from(code) + 1];
        System.arraycopy(BEFORE_FAILURE, 0, line, 0, BEFORE_FAILURE.length);
        System.arraycopy(
                texts.bytes(), texts.from(code), line, BEFORE_FAILURE.length, texts.to(code) - texts.from(code));
        line[line.length - 1] = '}';
        try {
            JsonLine json = new JsonLine(shape);
            Event event = json.read(line, 0, line.length, 0, true);
            return json.damage() == null ? name.value(event) : NameVector.NOT_HERE;
        } catch (UnreadableLineException e) {
            return NameVector.NOT_HERE;
        }
    }

    private static String digits(byte[] id, int from, int to) {
        byte[] digits = new byte[2 * (to - from)];
        Ids.unpack(id, from, to, digits, 0);
        return new String(digits, StandardCharsets.US_ASCII);
    }

    /** What is not a level of Graphema is read in another way. */
    private static Object ofEvent(Column column, String text) {
        boolean isLevel = column.path().equals(JsonMember.LEVEL.text());
        Level level = isLevel ? Level.of(text) : null;
        return !isLevel || level != null && level.text().equals(text) ? text : NameVector.NOT_HERE;
    }

    private static Object id(Column column, byte[] id, int from, int to) {
        boolean isTrace = column.path().equals(JsonMember.TRACE.text());
        if (isTrace != (to - from == Ids.MOST_BYTES)) {
            return NameVector.NOT_HERE;
        }
        long first = Ids.bits(id, from);
        if (!isTrace) {
            return first == 0 ? NameVector.NOT_HERE : new SpanId(first);
        }
        long second = Ids.bits(id, from + Long.BYTES);
        return first == 0 && second == 0 ? NameVector.NOT_HERE : new TraceId(first, second);
    }

    /** Returns a decimal number that a double returns unchanged. */
    private static Object number(String text) {
        char first = text.charAt(0);
        boolean isNumber = first == '-' || first >= '0' && first <= '9';
        Double value = isNumber && text.length() <= JsonValues.EXACT_LENGTH && !isWhole(text)
                ? JsonValues.exactDouble(Double.parseDouble(text))
                : null;
        return value == null ? NameVector.NOT_HERE : value;
    }

    private static boolean isWhole(String text) {
        return text.chars().allMatch(c -> c == '-' || c >= '0' && c <= '9');
    }
}
