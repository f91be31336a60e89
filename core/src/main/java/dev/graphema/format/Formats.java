package dev.graphema.format;

import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.option.Selection;
import dev.graphema.terminal.Paint;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** The available kinds of formats with their options. */
public final class Formats {
    /** When colours are used. */
    public enum Colour {
        /** On a terminal, unless {@code NO_COLOR} is set. */
        AUTO,
        ALWAYS,
        NEVER
    }

    public static final Option<List<String>> SHOW = Option.list(Option.of(
                    "show",
                    "some of " + String.join(", ", ColumnsLayout.COLUMNS) + ", or field and the name of a field",
                    ColumnsLayout::known,
                    column -> column))
            .standard(ColumnsLayout.usual(ZoneOffset.UTC).show(), "time, level, source, logger, message, fields")
            .meaning("the columns in order; `field lane` is a column for a field");
    public static final Option<Map<String, Integer>> WIDTHS = Option.names(Option.count("widths", 1, 1000))
            .standard(Map.of(), "suits the column")
            .meaning("the widths of columns in characters; a longer text loses its beginning");
    public static final Option<ColumnsLayout.Time> TIME = Option.word("time", ColumnsLayout.Time.class)
            .standard(ColumnsLayout.Time.TIME_OF_DAY)
            .meaning("the form of times");
    public static final Option<ZoneId> ZONE =
            Option.zone("zone").standard(null, "the system's").meaning("the time zone of times");
    public static final Option<List<String>> HIDE = Option.list(Option.text("hide", "the name of a field"))
            .standard(List.of(), "none")
            .meaning("hidden fields");
    public static final Option<Integer> FRAMES =
            Option.count("frames", 0, 1000).standard(3).meaning("the number of application frames shown for a failure");
    public static final Option<Integer> WIDTH = Option.count("width", 40, 1000)
            .standard(null, "the terminal's")
            .meaning("the width at which lines are wrapped");
    public static final Option<Colour> COLOUR =
            Option.word("colour", Colour.class).standard(Colour.AUTO).meaning("whether levels are coloured");
    public static final Option<Boolean> ID = Option.bool("id")
            .standard(null, "if events may be written twice")
            .meaning("whether events contain their id");
    public static final Option<JsonShape> SHAPE = Option.tree(
                    "shape", "names and values, such as text: message", JsonShape::parse, JsonShape::source)
            .standard(null, "[Graphema JSON](events.md)")
            .meaning("a custom object: keys, order and nesting, see [formats](#custom-json-objects)");
    public static final Option<Integer> FACILITY = Option.count("facility", 0, 23)
            .standard(16)
            .meaning("the facility of the protocol; 16 to 23 are for local use");

    public static final FormatKind COLUMNS = kind(
            "columns",
            "lines for people; failures folded; levels from warn on in capitals",
            List.of(SHOW, WIDTHS, TIME, ZONE, HIDE, FRAMES, WIDTH, COLOUR),
            Formats::columns);
    public static final FormatKind JSON = kind("json", "JSON lines", List.of(ID, SHAPE), (options, destination) -> {
        JsonShape shape = options.get(SHAPE);
        Boolean id = options.get(ID);
        return shape != null ? shape.format(destination) : new JsonLines(id == null ? destination.mayRepeat() : id);
    });
    public static final FormatKind KEY_VALUE =
            kind("key-value", "`name=value` pairs on one line", List.of(), (options, destination) -> new KeyValue());
    public static final FormatKind SYSLOG = kind(
            "syslog",
            "RFC 5424 messages on lines",
            List.of(FACILITY),
            (options, destination) -> SyslogLines.of(options.get(FACILITY)));
    public static final FormatKind OTLP = kind(
            "otlp",
            "log records of the OpenTelemetry protocol in its JSON encoding, one request on a line",
            List.of(),
            (options, destination) -> new OtlpJson());
    public static final FormatKind AUTO = kind(
            "auto",
            "columns on a terminal, JSON elsewhere",
            List.of(),
            (options, destination) -> (destination.isTerminal() ? COLUMNS : JSON).make(Options.NONE, destination));

    private static final Selection<FormatKind> KINDS =
            Selection.of(FormatKind.class, List.of(COLUMNS, JSON, KEY_VALUE, SYSLOG, OTLP, AUTO));

    private Formats() {}

    /** Returns all available kinds. */
    public static Selection<FormatKind> kinds() {
        return KINDS;
    }

    private static Format columns(Options options, Destination destination) {
        Map<String, Integer> widths = new TreeMap<>(options.get(WIDTHS));
        ZoneId zone = options.get(ZONE);
        ColumnsLayout layout = new ColumnsLayout(
                options.get(SHOW),
                widths,
                options.get(TIME),
                zone == null ? ZoneId.systemDefault() : zone,
                options.get(HIDE),
                options.get(FRAMES));
        Integer width = options.get(WIDTH);
        Paint paint = switch (options.get(COLOUR)) {
            case AUTO -> destination.paint();
            case ALWAYS -> Paint.ANSI;
            case NEVER -> Paint.NONE;
        };
        return Columns.of(layout, width == null ? destination.width() : width, paint);
    }

    private static FormatKind kind(String name, String meaning, List<Option<?>> options, Maker maker) {
        return new Ready(name, meaning, options, maker);
    }

    @FunctionalInterface
    private interface Maker {
        Format make(Options options, Destination destination);
    }

    private record Ready(String name, String meaning, List<Option<?>> options, Maker maker) implements FormatKind {
        @Override
        public Format make(Options options, Destination destination) {
            return maker.make(options, destination);
        }

        @Override
        public boolean equals(Object other) {
            return this == other;
        }

        @Override
        public int hashCode() {
            return name.hashCode();
        }

        @Override
        public String toString() {
            return name;
        }
    }
}
