package dev.graphema.spark.lake;

import dev.graphema.event.Event;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.format.Json;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import java.io.Serializable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.spark.sql.Dataset;
import org.apache.spark.sql.Row;
import org.apache.spark.sql.RowFactory;
import org.apache.spark.sql.functions;
import org.apache.spark.sql.types.DataType;
import org.apache.spark.sql.types.DataTypes;
import org.apache.spark.sql.types.StructField;
import org.apache.spark.sql.types.StructType;
import scala.jdk.javaapi.CollectionConverters;

/**
 * The columns of a lake. Attributes have columns of their own, as in the table of the sink {@code sql}; frequent fields have two, one for
 * numbers and one for texts, so that the type of a column never changes; all other fields are in a map. The event itself is the column
 * {@code line}, in Graphema JSON. Immutable.
 */
public final class EventSchema implements Serializable {
    private static final long serialVersionUID = 1;

    /** Before the name of a field, for its values that are numbers. */
    public static final String NUMBER = "number_";

    /** Before the name of a field, for its values that are texts. */
    public static final String TEXT = "text_";

    private static final long MICRO = 1_000;
    private static final long HOUR = 3_600_000_000_000L;
    private static final long HOURS_OF_DAY = 24;
    private static final String ONLY = "x";

    /** Up to this number, all whole numbers are doubles. */
    private static final long MOST_WHOLE = 1L << 53;

    private final ArrayList<String> frequent;

    /** @param frequent the names of the fields that have columns of their own */
    public EventSchema(List<String> frequent) {
        this.frequent = new ArrayList<>(frequent);
    }

    /** Returns the names of the fields that have columns of their own. */
    public List<String> frequent() {
        return List.copyOf(frequent);
    }

    /** Returns the type of a row, with its day and hour, by which files are divided. */
    public StructType type() {
        return type(DataTypes.TimestampType, DataTypes.DateType);
    }

    /** Returns the type of what {@link #row} returns: with times in microseconds, and days, since 1970. */
    public StructType plainType() {
        return type(DataTypes.LongType, DataTypes.IntegerType);
    }

    /** Returns rows of the type of a lake from those of the plain type. */
    public Dataset<Row> rows(Dataset<Row> plain) {
        return plain.withColumn("time", functions.expr("timestamp_micros(time)"))
                .withColumn("day", functions.expr("date_from_unix_date(day)"));
    }

    private StructType type(DataType time, DataType day) {
        List<StructField> columns = new ArrayList<>();
        column(columns, "number", DataTypes.LongType);
        column(columns, "id", DataTypes.StringType);
        column(columns, "time", time);
        column(columns, "nanos", DataTypes.IntegerType);
        column(columns, "level", DataTypes.StringType);
        column(columns, "severity", DataTypes.IntegerType);
        for (String each : List.of(
                "service",
                "instance",
                "logger",
                "message",
                "trace",
                "span",
                "parent",
                "thread",
                "failure",
                "fingerprint")) {
            column(columns, each, DataTypes.StringType);
        }
        column(columns, "weight", DataTypes.LongType);
        column(columns, "held", DataTypes.BooleanType);
        for (String each : frequent) {
            column(columns, NUMBER + each, DataTypes.DoubleType);
            column(columns, TEXT + each, DataTypes.StringType);
        }
        column(columns, "fields", DataTypes.createMapType(DataTypes.StringType, DataTypes.StringType));
        column(columns, "line", DataTypes.StringType);
        column(columns, "plain", DataTypes.BooleanType);
        column(columns, "day", day);
        column(columns, "hour", DataTypes.IntegerType);
        return DataTypes.createStructType(columns);
    }

    private static void column(List<StructField> columns, String name, DataType type) {
        columns.add(DataTypes.createStructField(name, type, true));
    }

    /**
     * Returns the row of an event, of the plain type.
     *
     * @param number orders events of the same time
     * @param otherId the id if the event has none; null for none
     */
    public Row row(Event event, long number, String otherId) {
        long hours = Math.floorDiv(event.epochNanos(), HOUR);
        Level level = event.level();
        List<Object> values = new ArrayList<>(Arrays.asList(
                number,
                event.id() == null ? otherId : event.id(),
                Math.floorDiv(event.epochNanos(), MICRO),
                (int) Math.floorMod(event.epochNanos(), MICRO),
                level == null ? null : level.text(),
                level == null ? null : level.severity(),
                event.service(),
                event.instance(),
                event.logger(),
                event.message(),
                text(event.trace()),
                text(event.span()),
                text(event.parent()),
                event.thread(),
                event.failure() == null ? null : Json.of(event.failure()),
                event.failure() == null ? null : event.failure().fingerprint(),
                event.weight(),
                event.held()));
        Map<String, Object> fields = event.fields().toMap();
        Map<String, String> others = texts(fields);
        boolean arePlain = true;
        for (String each : frequent) {
            Object value = fields.get(each);
            values.add(value instanceof Number decimal ? decimal.doubleValue() : null);
            values.add(value instanceof String ? value : null);
            if (value instanceof String || value instanceof Long && isExact(value)) {
                others.remove(each);
            }
            arePlain &= isExact(value) && (value != null || !others.containsKey(each));
        }
        values.add(CollectionConverters.asScala(others));
        values.add(line(event));
        values.add(arePlain && isPlain(event));
        values.add((int) Math.floorDiv(hours, HOURS_OF_DAY));
        values.add((int) Math.floorMod(hours, HOURS_OF_DAY));
        return RowFactory.create(values.toArray());
    }

    /** Returns whether the two columns of a frequent field have exactly its value. */
    private static boolean isExact(Object value) {
        if (value instanceof String text) {
            return isPlain(text) && !text.startsWith("PT"); // which can be a duration
        }
        if (value instanceof Long number) {
            return Math.abs(number) <= MOST_WHOLE;
        }
        if (value instanceof Double number) {
            return Double.isFinite(number);
        }
        return value == null;
    }

    private static String text(Object id) {
        return id == null ? null : id.toString();
    }

    /** Returns texts unchanged, decimal numbers as they are counted by, and all other values as JSON. */
    private static Map<String, String> texts(Map<String, Object> fields) {
        Map<String, String> texts = new LinkedHashMap<>();
        fields.forEach((name, value) -> texts.put(
                name,
                value == null
                        ? null
                        : value instanceof String || value instanceof Double ? value.toString() : json(value)));
        return texts;
    }

    private static String json(Object value) {
        String object = Json.of(Fields.of(to -> to.put(ONLY, value)));
        return object.substring(ONLY.length() + 4, object.length() - 1); // without {"x": and }
    }

    private static String line(Event event) {
        Utf8Buffer line = new Utf8Buffer(512);
        new JsonLines(true).write(event, line);
        return line.toString().strip();
    }

    /** Returns whether the columns of attributes have exactly the values of the event. */
    private static boolean isPlain(Event event) {
        return event.hasTime()
                && isPlain(event.service())
                && isPlain(event.instance())
                && isPlain(event.logger())
                && isPlain(event.message())
                && isPlain(event.thread());
    }

    private static boolean isPlain(String text) {
        return text == null || text.codePoints().noneMatch(point -> point == 0 || point >= 0xD800 && point <= 0xDFFF);
    }
}
