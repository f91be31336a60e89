package dev.graphema.settings;

import dev.graphema.option.Option;
import dev.graphema.option.Options;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.Function;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/**
 * Reads values of options from a mapping; a dotted name denotes a nested mapping. Records errors with their position.
 */
final class OptionsReader {
    private final Yaml yaml;
    private Options options = Options.NONE;

    OptionsReader(Yaml yaml) {
        this.yaml = yaml;
    }

    /** Returns the values read so far. */
    Options options() {
        return options;
    }

    /** Returns readers for the first parts of the names of these options. */
    Map<String, Consumer<Node>> readers(List<Option<?>> choices) {
        return readers(choices, 0);
    }

    private Map<String, Consumer<Node>> readers(List<Option<?>> choices, int from) {
        Map<String, List<Option<?>>> groups = new LinkedHashMap<>();
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        for (Option<?> choice : choices) {
            int dot = choice.name().indexOf('.', from);
            if (dot < 0) {
                readers.put(choice.name().substring(from), node -> read(choice, node));
            } else {
                String group = choice.name().substring(from, dot);
                groups.computeIfAbsent(group, name -> new ArrayList<>()).add(choice);
                List<Option<?>> inside = groups.get(group);
                readers.put(group, node -> yaml.mapping(node, group, readers(inside, dot + 1)));
            }
        }
        return readers;
    }

    private <T> void read(Option<T> option, Node node) {
        Object value = switch (option.shape()) {
            case SCALAR -> text(option, node);
            case LIST -> list(option, node);
            case NAMES -> names(option, node, false);
            case TREE -> names(option, node, true);
        };
        if (value == null) {
            return; // noted already
        }
        try {
            options = options.written(option, value, original(node));
        } catch (IllegalArgumentException e) {
            Object original = original(node);
            yaml.problem(
                    option.shape() == Option.Shape.TREE ? culprit(option, node, Function.identity()) : node,
                    value.equals(original)
                            ? e.getMessage()
                            : Yaml.withoutValue(e.getMessage(), value.toString(), original.toString()));
        }
    }

    /**
     * Returns the part of a tree that is invalid on its own; all of it if there is none.
     *
     * @param around returns the tree that contains only a part
     */
    private <T> Node culprit(Option<T> option, Node node, Function<Object, Object> around) {
        if (node instanceof SequenceNode sequence) {
            return culprit(option, sequence, around);
        }
        if (!(node instanceof MappingNode)) {
            return node;
        }
        Map<String, Node> parts = new LinkedHashMap<>();
        yaml.entries(node, option.name(), (key, value) -> parts.put(key.getValue(), value));
        for (Map.Entry<String, Node> part : parts.entrySet()) {
            Function<Object, Object> outer = inner -> around.apply(Map.of(part.getKey(), inner));
            Object alone = outer.apply(original(part.getValue()));
            try {
                options.written(option, alone, alone);
            } catch (IllegalArgumentException e) {
                return culprit(option, part.getValue(), outer);
            }
        }
        return node;
    }

    private <T> Node culprit(Option<T> option, SequenceNode sequence, Function<Object, Object> around) {
        for (Node item : sequence.getValue()) {
            Function<Object, Object> outer = inner -> around.apply(List.of(inner));
            Object alone = outer.apply(original(item));
            try {
                options.written(option, alone, alone);
            } catch (IllegalArgumentException e) {
                return culprit(option, item, outer);
            }
        }
        return sequence;
    }

    /** Returns the value as it is written, with its variables. */
    private Object original(Node node) {
        if (node instanceof ScalarNode scalar) {
            return scalar.getValue();
        }
        if (node instanceof SequenceNode sequence) {
            return sequence.getValue().stream().map(this::original).toList();
        }
        Map<String, Object> names = new LinkedHashMap<>();
        yaml.entries(node, "names", (key, value) -> names.put(key.getValue(), original(value)));
        return names;
    }

    private String text(Option<?> option, Node node) {
        List<String> text = new ArrayList<>();
        yaml.scalar(node, option.expected(), text::add);
        return text.isEmpty() ? null : text.get(0);
    }

    private List<String> list(Option<?> option, Node node) {
        List<String> texts = new ArrayList<>();
        for (Node item : yaml.items(node)) {
            String text = text(option, item);
            if (text == null) {
                return null;
            }
            texts.add(text);
        }
        return texts;
    }

    private Map<String, Object> names(Option<?> option, Node node, boolean nested) {
        Map<String, Object> values = new LinkedHashMap<>();
        int problemsBefore = yaml.problems().size();
        yaml.entries(node, option.name(), (key, each) -> {
            Object value = nested ? tree(option, each) : text(option, each);
            if (value != null) {
                values.put(key.getValue(), value);
            }
        });
        return yaml.problems().size() > problemsBefore ? null : values;
    }

    private Object tree(Option<?> option, Node node) {
        if (node instanceof MappingNode) {
            return names(option, node, true);
        }
        if (!(node instanceof SequenceNode)) {
            return text(option, node);
        }
        List<Object> items = new ArrayList<>();
        yaml.items(node).stream()
                .map(each -> tree(option, each))
                .filter(Objects::nonNull)
                .forEach(items::add);
        return items;
    }
}
