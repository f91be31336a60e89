package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.format.FormatKind;
import dev.graphema.format.Formats;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.option.Selectable;
import dev.graphema.option.Selection;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Sinks;
import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;

/** Reads a sink from a settings file. */
final class SinkReader {
    private final Yaml yaml;
    private final String name;

    private Level threshold = Level.TRACE;
    private boolean durable;
    private FormatKind format;
    private Options formatOptions = Options.NONE;

    SinkReader(Yaml yaml, String name) {
        this.yaml = yaml;
        this.name = name;
    }

    /** Returns the sink of the node, or null if it has errors, which have been recorded. */
    SinkSettings read(Node node) {
        int problemsBefore = yaml.problems().size();
        SinkKind kind = selected(node, "sink", "the sink " + name, Sinks.kinds());
        if (kind == null) {
            return null;
        }
        OptionsReader options = new OptionsReader(yaml);
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("type", value -> {});
        readers.put("level", value -> yaml.level(value, level -> threshold = level));
        readers.put("durable", value -> yaml.bool(value, on -> durable = on));
        readers.put("format", value -> format(kind, value));
        readers.putAll(options.readers(kind.options()));
        yaml.mapping(node, "a sink of the type " + kind.name(), readers, key -> elsewhere(key, kind));
        if (yaml.problems().size() > problemsBefore) {
            return null;
        }
        SinkSettings settings =
                SinkSettings.of(kind).level(threshold).durable(durable).with(options.options());
        if (format != null) {
            settings = settings.format(format, formatOptions);
        }
        try {
            settings.check();
            return settings;
        } catch (IllegalArgumentException e) {
            yaml.problem(node, "the sink " + name + " has " + e.getMessage());
            return null;
        }
    }

    private void format(SinkKind kind, Node node) {
        if (kind.usualFormat() == null) {
            yaml.problem(node, "a sink of the type " + kind.name() + " has no format: its form is fixed");
            return;
        }
        if (node instanceof MappingNode) {
            format = selected(node, "format", "this format", Formats.kinds());
            if (format != null) {
                OptionsReader options = new OptionsReader(yaml);
                Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
                readers.put("type", value -> {});
                readers.putAll(options.readers(format.options()));
                yaml.mapping(node, "the format " + format.name(), readers);
                formatOptions = options.options();
            }
        } else {
            named(node, "format", Formats.kinds(), chosen -> format = chosen);
        }
    }

    /** Returns the kind that the mapping names, or null if there is an error, which has been recorded. */
    private <S extends Selectable> S selected(Node node, String what, String which, Selection<S> kinds) {
        if (!(node instanceof MappingNode mapping)) {
            yaml.entries(node, which, (key, value) -> {}); // notes what is wrong
            return null;
        }
        for (NodeTuple tuple : mapping.getValue()) {
            if (tuple.getKeyNode() instanceof ScalarNode key && key.getValue().equals("type")) {
                List<S> found = new ArrayList<>();
                named(tuple.getValueNode(), "type of " + what, kinds, found::add);
                return found.isEmpty() ? null : found.get(0);
            }
        }
        yaml.problem(node, which + " has no type: expected type: " + String.join(" or type: ", kinds.names()));
        return null;
    }

    private <S extends Selectable> void named(Node node, String what, Selection<S> kinds, Consumer<S> reader) {
        yaml.scalar(node, what, text -> {
            S kind = kinds.named(text);
            if (kind == null) {
                String module = what.equals("type of sink") ? Sinks.moduleOf(text) : null;
                throw new IllegalArgumentException(
                        module != null
                                ? "the type of sink \"" + text + "\" comes with the library " + module
                                        + ": add that to the program"
                                : "\"" + text + "\" is not a valid " + what + ": expected one of "
                                        + String.join(", ", kinds.names()) + Nearest.hint(text, kinds.names()));
            }
            reader.accept(kind);
        });
    }

    /** Returns a hint for an option that only other kinds have, or null. */
    private static String elsewhere(String key, SinkKind kind) {
        List<String> others = Sinks.kinds().all().stream()
                .filter(other -> other.options().stream().anyMatch(option -> isBelow(option, key)))
                .map(Selectable::name)
                .toList();
        return others.isEmpty()
                ? null
                : "a " + kind.name() + " has no " + key + ": expected type: " + String.join(" or type: ", others)
                        + ", or no " + key;
    }

    private static boolean isBelow(Option<?> option, String key) {
        return option.name().equals(key) || option.name().startsWith(key + ".");
    }
}
