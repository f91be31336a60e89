package dev.graphema.segments;

import dev.graphema.event.Level;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.form.JsonValues;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.line.Column;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.nio.charset.StandardCharsets;

/** The values that the bytes of a column stand for. */
final class ColumnValue {
    private static final int TRACE_LENGTH = 32;

    private ColumnValue() {}

    /** Returns the value of a code; {@link NameVector#NOT_HERE} if only the complete event has it. */
    static Object of(Column column, Texts texts, int code) {
        byte[] bytes = texts.bytes();
        int from = texts.from(code);
        int length = texts.to(code) - from;
        for (int i = from; i < from + length; i++) {
            if (bytes[i] == '\\') {
                return NameVector.NOT_HERE;
            }
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        boolean isField = column.path().indexOf(Column.SEPARATOR) >= 0;
        return switch (column.kind()) {
            case TEXT -> isField ? JsonValues.meaning(text) : ofEvent(column, text);
            case ID -> isField || column.path().equals(JsonMember.FINGERPRINT.text()) ? text : id(column, text);
            default -> isField ? number(text) : NameVector.NOT_HERE;
        };
    }

    /** What is not a level of Graphema is read in another way. */
    private static Object ofEvent(Column column, String text) {
        boolean isLevel = column.path().equals(JsonMember.LEVEL.text());
        Level level = isLevel ? Level.of(text) : null;
        return !isLevel || level != null && level.text().equals(text) ? text : NameVector.NOT_HERE;
    }

    private static Object id(Column column, String text) {
        boolean isTrace = column.path().equals(JsonMember.TRACE.text());
        if (isTrace != (text.length() == TRACE_LENGTH)) {
            return NameVector.NOT_HERE;
        }
        Object id = isTrace ? TraceId.parse(text) : SpanId.parse(text);
        return id == null ? NameVector.NOT_HERE : id;
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
