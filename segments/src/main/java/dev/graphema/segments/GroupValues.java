package dev.graphema.segments;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Level;
import dev.graphema.format.JsonMember;
import dev.graphema.lines.form.JsonValues;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.segments.column.Texts;
import dev.graphema.segments.file.Directory;
import dev.graphema.segments.line.Column;
import dev.graphema.segments.line.Kind;
import dev.graphema.segments.line.Shape;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The values of a projection for the current line of a group. Each text is decoded once. For one thread.
 */
final class GroupValues {
    /** Stands for a value that only the complete event has. */
    private static final Object NOT_HERE = new Object();

    /** How the lines of a shape are read. */
    private record ShapeReading(NamedValue[] values, int time, int weight, int trace, boolean isComplete) {
        void addColumns(BitSet to) {
            IntStream.concat(
                            IntStream.of(time, weight, trace),
                            Arrays.stream(values).mapToInt(NamedValue::column))
                    .filter(column -> column >= 0)
                    .forEach(to::set);
        }
    }

    private final List<CodeTest> tests;

    /** By test: the column whose codes it tests; -1 until the first value. */
    private final int[] testedColumn;

    private final LineShape lineShape;
    private final GroupReader group;
    private final Projection projection;
    private final ProjectedValues projected;
    private final ShapeReading[] readings;
    private long time;

    /** By column, for texts: the values by their codes, or {@link #NOT_HERE}; null until the first one. */
    private final Object[][] decoded;

    /**
     * @param where the condition, whose names are in the projection
     * @param projection not all values
     */
    GroupValues(GroupReader group, Directory directory, Condition where, Projection projection, LineShape lineShape) {
        this.tests = CodeTest.of(where, projection);
        this.testedColumn = new int[tests.size()];
        Arrays.fill(testedColumn, -1);
        this.lineShape = lineShape;
        this.group = group;
        this.projection = projection;
        this.projected = new ProjectedValues(projection, () -> time);
        int columns = directory.columns().size();
        decoded = new Object[columns][];
        readings = new ShapeReading[directory.shapes().size()];
        for (int i = 0; i < readings.length; i++) {
            readings[i] = reading(directory.shapes().get(i), directory.columns());
        }
        BitSet needed = new BitSet();
        for (ShapeReading reading : readings) {
            reading.addColumns(needed);
        }
        group.follow(needed);
    }

    private ShapeReading reading(Shape shape, List<Column> columns) {
        int weight = -1;
        int trace = -1;
        for (int column : shape.columns()) {
            String path = columns.get(column).path();
            weight = path.equals(JsonMember.WEIGHT.text()) ? column : weight;
            trace = path.equals(JsonMember.TRACE.text()) ? column : trace;
        }
        // Of a sampled event, the trace is always asked for.
        boolean isComplete = weight >= 0 && columns.get(weight).kind() != Kind.INTEGER
                || weight >= 0 && trace >= 0 && columns.get(trace).kind() != Kind.ID;
        NamedValue[] values = new NamedValue[projection.listed().size()];
        for (int i = 0; i < values.length; i++) {
            Name name = projection.listed().get(i);
            values[i] = NamedValue.of(name, shape, columns);
            // A name that is no field can be that of a part of a text, which is computed from the event.
            isComplete |= values[i].place() == NamedValue.Place.EVENT
                    || values[i].place() == NamedValue.Place.NOWHERE
                            && name.attribute() == null
                            && lineShape.isComputed(name.field());
        }
        return new ShapeReading(values, shape.columns()[0], weight, weight < 0 ? -1 : trace, isComplete);
    }

    /** Returns the time of the current line. */
    long time(int shape) throws IOException {
        return group.numbers(readings[shape].time)[group.index(readings[shape].time)];
    }

    /**
     * Reads the values of the current line.
     *
     * @return null if it must be read completely
     */
    ProjectedValues read(int shape) throws IOException {
        ShapeReading reading = readings[shape];
        if (reading.isComplete) {
            return null;
        }
        projected.clear();
        time = time(shape);
        if (reading.weight >= 0) {
            long weight = group.numbers(reading.weight)[group.index(reading.weight)];
            if (weight < 1) {
                return null;
            }
            projected.weight(weight);
            if (reading.trace >= 0 && !(valueOf(reading.trace) instanceof TraceId)) {
                return null;
            }
            projected.trace(reading.trace < 0 ? null : (TraceId) valueOf(reading.trace));
        }
        Object[] array = projected.array();
        for (int i = 0; i < array.length; i++) {
            NamedValue value = reading.values[i];
            array[i] = value.place() == NamedValue.Place.COLUMN ? valueOf(value.column()) : value.constant();
            if (array[i] == NOT_HERE || !set(projected, projection.listed().get(i), array[i])) {
                return null;
            }
        }
        return projected;
    }

    /**
     * Returns whether the current line is excluded by one of its values. If not, it must be read to know.
     */
    boolean isExcluded(int shape) throws IOException {
        ShapeReading reading = readings[shape];
        if (reading.isComplete) {
            return false;
        }
        for (int i = 0; i < tests.size(); i++) {
            NamedValue value = reading.values[tests.get(i).index()];
            if (value.place() == NamedValue.Place.NOWHERE && tests.get(i).excludesMissing()) {
                return true;
            }
            if (value.place() == NamedValue.Place.COLUMN && isExcluded(i, value.column())) {
                return true;
            }
        }
        return false;
    }

    /** A name can have columns of several kinds, of which one is tested by its codes. */
    private boolean isExcluded(int test, int column) throws IOException {
        if (testedColumn[test] < 0 && !group.column(column).kind().isNumber()) {
            testedColumn[test] = column;
        }
        if (testedColumn[test] != column) {
            return false;
        }
        Texts texts = group.texts(column);
        int code = texts.code(group.index(column));
        Object value = valueOf(column);
        return value != NOT_HERE && tests.get(test).excludes(code, texts.different(), value);
    }

    /** Sets what an event has apart from its values; false if the value is not a usual one. */
    static boolean set(ProjectedValues projected, Name name, Object value) {
        if (name.attribute() == Attribute.LEVEL) {
            Level level = value == null ? null : Level.of((String) value);
            projected.level(level);
            return level != null && level.text().equals(value);
        }
        if (name.attribute() == Attribute.TRACE && value != null) {
            projected.trace(value instanceof TraceId trace ? trace : null);
            return value instanceof TraceId;
        }
        boolean isSpan = name.attribute() == Attribute.SPAN || name.attribute() == Attribute.PARENT;
        return !isSpan || value == null || value instanceof SpanId;
    }

    private Object valueOf(int column) throws IOException {
        Column of = group.column(column);
        int position = group.index(column);
        if (of.kind() == Kind.INTEGER) {
            return group.numbers(column)[position];
        }
        if (of.kind() == Kind.TIME) {
            return NOT_HERE;
        }
        Texts texts = group.texts(column);
        Object[] values = decoded[column];
        if (values == null) {
            values = new Object[texts.different()];
            decoded[column] = values;
        }
        int code = texts.code(position);
        if (values[code] == null) {
            values[code] = decoded(of, texts, code);
        }
        return values[code];
    }

    private static Object decoded(Column column, Texts texts, int code) {
        byte[] bytes = texts.bytes();
        int from = texts.from(code);
        int length = texts.to(code) - from;
        for (int i = from; i < from + length; i++) {
            if (bytes[i] == '\\') {
                return NOT_HERE;
            }
        }
        String text = new String(bytes, from, length, StandardCharsets.UTF_8);
        boolean isField = column.path().indexOf(Column.SEPARATOR) >= 0;
        return switch (column.kind()) {
            case TEXT -> isField ? JsonValues.meaning(text) : text;
            case ID -> isField || column.path().equals(JsonMember.FINGERPRINT.text()) ? text : id(text);
            default -> isField ? number(text) : NOT_HERE;
        };
    }

    private static Object id(String text) {
        Object id = text.length() == 32 ? TraceId.parse(text) : SpanId.parse(text);
        return id == null ? NOT_HERE : id;
    }

    /** Returns a decimal number that a double returns unchanged. */
    private static Object number(String text) {
        char first = text.charAt(0);
        boolean isNumber = first == '-' || first >= '0' && first <= '9';
        Double value = isNumber && text.length() <= JsonValues.EXACT_LENGTH && !isWhole(text)
                ? JsonValues.exactDouble(Double.parseDouble(text))
                : null;
        return value == null ? NOT_HERE : value;
    }

    private static boolean isWhole(String text) {
        return text.chars().allMatch(c -> c == '-' || c >= '0' && c <= '9');
    }
}
