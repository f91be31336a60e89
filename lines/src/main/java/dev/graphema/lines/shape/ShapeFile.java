package dev.graphema.lines.shape;

import dev.graphema.lines.time.DateOrder;
import dev.graphema.text.Nearest;
import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.composer.Composer;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;
import org.snakeyaml.engine.v2.parser.ParserImpl;
import org.snakeyaml.engine.v2.scanner.StreamReader;

/**
 * A file beside logs that defines how their lines are read: a YAML mapping from names of files, in which {@code *} stands
 * for any characters, to attributes and their names. Of several that match, the first one applies. Immutable.
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

    private static final int MOST_BYTES = 1 << 20;
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
        if (Files.size(file) > MOST_BYTES) {
            throw new IOException(file + " has more than " + MOST_BYTES + " bytes: expected some lines of YAML");
        }
        try {
            LoadSettings settings =
                    LoadSettings.builder().setLabel(file.toString()).build();
            Optional<Node> document = new Composer(
                            settings, new ParserImpl(settings, new StreamReader(settings, Files.readString(file))))
                    .getSingleNode();
            Map<PathMatcher, LineShape> shapes = new LinkedHashMap<>();
            if (document.isPresent()) {
                for (NodeTuple each :
                        mapping(file, document.get(), "names of files").getValue()) {
                    String glob = text(file, each.getKeyNode());
                    PathMatcher matcher = FileSystems.getDefault().getPathMatcher("glob:" + glob);
                    shapes.put(matcher, shape(file, each.getValueNode()));
                }
            }
            return new ShapeFile(shapes);
        } catch (MarkedYamlEngineException e) {
            int line = e.getProblemMark().map(mark -> mark.getLine() + 1).orElse(1);
            throw new IOException(file + ":" + line + ": not YAML: " + e.getProblem(), e);
        } catch (YamlEngineException e) {
            throw new IOException(file + ": not YAML: " + e.getMessage(), e);
        } catch (StackOverflowError e) {
            throw new IOException(file + ": nested too deeply (expected: two levels)", e);
        }
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

    private static LineShape shape(Path file, Node node) throws IOException {
        LineShape shape = LineShape.USUAL;
        for (NodeTuple each : mapping(file, node, "attributes and their names").getValue()) {
            String key = text(file, each.getKeyNode());
            try {
                shape = with(shape, key, values(file, each.getValueNode()));
            } catch (IllegalArgumentException e) {
                throw problem(file, each.getKeyNode(), e.getMessage());
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

    private static MappingNode mapping(Path file, Node node, String expected) throws IOException {
        if (node instanceof MappingNode mapping) {
            return mapping;
        }
        throw problem(file, node, "expected a mapping with " + expected);
    }

    private static List<String> values(Path file, Node node) throws IOException {
        if (node instanceof SequenceNode list) {
            List<String> values = new ArrayList<>();
            for (Node each : list.getValue()) {
                values.add(text(file, each));
            }
            return values;
        }
        return List.of(text(file, node));
    }

    private static String text(Path file, Node node) throws IOException {
        if (node instanceof ScalarNode scalar) {
            return scalar.getValue();
        }
        throw problem(file, node, "expected a text");
    }

    private static IOException problem(Path file, Node node, String message) {
        int line = node.getStartMark().map(mark -> mark.getLine() + 1).orElse(1);
        return new IOException(file + ":" + line + ": " + message);
    }
}
