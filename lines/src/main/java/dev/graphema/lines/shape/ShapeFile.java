package dev.graphema.lines.shape;

import dev.graphema.lines.time.DateOrder;
import dev.graphema.lines.yaml.YamlFile;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;

/**
 * A file beside logs that defines how their lines are read: a YAML mapping from names of files, in which {@code *} matches
 * any characters, to attributes and their names. Of several that match, the first one applies. Immutable.
 *
 * <pre>
 * "booking.log*":
 *   time: when
 *   level: kind
 *   field: [event]
 *   dates: day-first
 *   zones: IST=+05:30
 *   time-format: yy/MM/dd HH:mm:ss
 *   part: lane=message:lane (\S+)
 *   pattern: ^(?P&lt;time&gt;\S+) (?P&lt;message&gt;.*)
 * </pre>
 */
public final class ShapeFile {
    /** The name of the file. */
    public static final String NAME = "graphema-shape.yaml";

    private static final List<String> OTHER_KEYS = List.of("field", "dates", "zones", "time-format", "pattern", "part");

    private final Map<PathMatcher, LineShape> shapes;

    private ShapeFile(Map<PathMatcher, LineShape> shapes) {
        this.shapes = shapes;
    }

    /**
     * Reads a file.
     *
     * @throws IOException if it cannot be read, or is invalid: the message contains file, line and expectation
     */
    public static ShapeFile read(Path file) throws IOException {
        YamlFile yaml = YamlFile.read(file);
        Map<PathMatcher, LineShape> shapes = new LinkedHashMap<>();
        for (NodeTuple each : yaml.members("names of files")) {
            PathMatcher matcher = FileSystems.getDefault().getPathMatcher("glob:" + yaml.text(each.getKeyNode()));
            shapes.put(matcher, shape(yaml, each.getValueNode()));
        }
        return new ShapeFile(shapes);
    }

    /** Returns the shape that is defined for a file; the usual one if there is none. */
    public LineShape shape(Path file) {
        for (Map.Entry<PathMatcher, LineShape> each : shapes.entrySet()) {
            if (each.getKey().matches(file.getFileName())) {
                return each.getValue();
            }
        }
        return LineShape.USUAL;
    }

    private static LineShape shape(YamlFile yaml, Node node) throws IOException {
        LineShape shape = LineShape.USUAL;
        for (NodeTuple each : yaml.members(node, "attributes and their names")) {
            String key = yaml.text(each.getKeyNode());
            try {
                shape = with(shape, key, yaml.texts(each.getValueNode()));
            } catch (IllegalArgumentException e) {
                throw yaml.problem(each.getKeyNode(), e.getMessage());
            }
        }
        return shape;
    }

    private static LineShape with(LineShape shape, String key, List<String> values) {
        LineShape now = shape;
        for (String value : values) {
            now = switch (key) {
                case "dates" -> now.timed(now.times().order(order(value)));
                case "zones" -> now.timed(now.times().zones(value));
                case "time-format" -> now.timed(now.times().format(value));
                case "pattern" -> now.matching(value);
                case "part" -> now.part(value);
                default -> {
                    if (LineAttribute.of(key) == null && !key.equals("field")) {
                        List<String> expected = new ArrayList<>(LineAttribute.texts());
                        expected.addAll(OTHER_KEYS);
                        throw new IllegalArgumentException("\"" + key + "\" is not known: expected one of "
                                + String.join(", ", expected) + Nearest.hint(key, expected));
                    }
                    yield now.named(key, value);
                }
            };
        }
        return now;
    }

    /**
     * Returns the order of day and month that a text denotes.
     *
     * @throws IllegalArgumentException if it denotes none
     */
    public static DateOrder order(String text) {
        for (DateOrder each : DateOrder.values()) {
            if (text(each).equals(text)) {
                return each;
            }
        }
        throw new IllegalArgumentException(
                "\"" + text + "\" is not a valid order of dates: expected day-first or month-first");
    }

    private static String text(DateOrder order) {
        return order.name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /**
     * Returns lines that define how a log is read.
     *
     * @param name the name of the file
     * @param shape its shape
     * @param uses the names in it
     */
    public static String lines(String name, LineShape shape, List<NameUse> uses) {
        Map<String, Meaning> names = new LinkedHashMap<>();
        uses.stream()
                .filter(each -> each.attribute() != null && each.reason() != NameUse.Reason.PLACE)
                .forEach(each -> names.put(each.name(), new Meaning(each.attribute(), 0)));
        names.putAll(shape.mapping());
        StringBuilder lines = new StringBuilder(quoted(name)).append(":\n");
        for (LineAttribute attribute : LineAttribute.values()) {
            names(lines, attribute.text(), attribute, names);
        }
        names(lines, "field", null, names);
        if (shape.times().order() != null) {
            line(lines, "dates", text(shape.times().order()));
        }
        if (!shape.times().zones().isEmpty()) {
            List<String> zones = shape.times().zones().entrySet().stream()
                    .map(each -> each.getKey() + "=" + each.getValue())
                    .sorted()
                    .toList();
            line(lines, "zones", quoted(String.join(",", zones)));
        }
        if (shape.times().format() != null) {
            line(lines, "time-format", quoted(shape.times().format().pattern()));
        }
        if (!shape.parts().isEmpty()) {
            List<String> parts =
                    shape.parts().stream().map(each -> quoted(each.toString())).toList();
            line(lines, "part", parts.size() == 1 ? parts.get(0) : parts.toString());
        }
        if (shape.pattern() != null) {
            line(lines, "pattern", quoted(shape.pattern().pattern()));
        }
        return lines.toString();
    }

    private static void names(StringBuilder to, String key, LineAttribute attribute, Map<String, Meaning> names) {
        List<String> of = names.entrySet().stream()
                .filter(each -> each.getValue().attribute() == attribute)
                .map(each -> quoted(each.getKey()))
                .toList();
        if (!of.isEmpty()) {
            line(to, key, of.size() == 1 ? of.get(0) : of.toString());
        }
    }

    private static void line(StringBuilder to, String key, String value) {
        to.append("  ").append(key).append(": ").append(value).append('\n');
    }

    private static String quoted(String text) {
        return "'" + text.replace("'", "''") + "'";
    }
}
