package dev.graphema.settings;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.event.Level;
import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.UnaryOperator;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.composer.Composer;
import org.snakeyaml.engine.v2.exceptions.Mark;
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
 * Reads a YAML document by expected names. Errors are recorded with their position, and reading continues, so that all
 * errors are found at once.
 */
final class Yaml {
    private static final List<Level> LEVELS = Arrays.asList(Level.values());

    /** The most reported errors; a file with more is not a settings file. */
    private static final int MOST_PROBLEMS = 50;

    private static final int LONGEST_SHOWN = 80;

    /** Reading is recursive: a deeper nesting would exhaust the stack. */
    static final String NESTED_TOO_DEEPLY = "nested too deeply (expected: some ten levels)";

    private final String file;
    private final Variables variables;
    private final List<Problem> problems = new ArrayList<>();

    Yaml(String file, Variables variables) {
        this.file = file;
        this.variables = variables;
    }

    List<Problem> problems() {
        return problems;
    }

    /** Parses a document; empty if it is empty or not YAML. */
    Optional<Node> document(String text) {
        return document(text, file);
    }

    /**
     * As above.
     *
     * @param file the name in messages
     */
    Optional<Node> document(String text, String file) {
        try {
            LoadSettings settings = LoadSettings.builder()
                    .setLabel(file)
                    .setAllowDuplicateKeys(false)
                    .build();
            return new Composer(settings, new ParserImpl(settings, new StreamReader(settings, text))).getSingleNode();
        } catch (MarkedYamlEngineException e) {
            Optional<Mark> mark = e.getProblemMark();
            problems.add(new Problem(
                    file,
                    mark.map(at -> at.getLine() + 1).orElse(0),
                    mark.map(at -> at.getColumn() + 1).orElse(0),
                    "not YAML: " + (e.getProblem() == null ? e.getContext() : e.getProblem())
                            + mark.map(at -> hint(text, at.getLine())).orElse("")));
        } catch (YamlEngineException e) {
            problems.add(new Problem(file, 0, 0, "not YAML: " + e.getMessage()));
        } catch (StackOverflowError e) {
            problems.add(new Problem(file, 0, 0, NESTED_TOO_DEEPLY));
        }
        return Optional.empty();
    }

    /** Returns the usual cause of an error in such a line. */
    private static String hint(String text, int line) {
        String[] lines = text.split("\n", -1);
        boolean hasVariable = line < lines.length && lines[line].contains("${") && lines[line].contains(": {");
        return hasVariable ? " (within { }, a value with ${…} must be quoted)" : "";
    }

    void problem(Node node, String text) {
        if (problems.size() >= MOST_PROBLEMS) {
            throw new SettingsException(problems);
        }
        Optional<Mark> mark = node.getStartMark();
        problems.add(new Problem(
                mark.map(Mark::getName).orElse(file),
                mark.map(at -> at.getLine() + 1).orElse(0),
                mark.map(at -> at.getColumn() + 1).orElse(0),
                text));
    }

    /** Returns the position of the node: {@code graphema.yaml:3:12}. */
    static String place(Node node) {
        return node.getStartMark()
                .map(at -> at.getName() + ":" + (at.getLine() + 1) + ":" + (at.getColumn() + 1))
                .orElse("the settings");
    }

    /** Calls the reader of each name in the mapping; other names are errors. */
    void mapping(Node node, String what, Map<String, Consumer<Node>> readers) {
        mapping(node, what, readers, key -> null);
    }

    /**
     * As above.
     *
     * @param elsewhere returns a hint for a name that is valid elsewhere, or null
     */
    void mapping(Node node, String what, Map<String, Consumer<Node>> readers, UnaryOperator<String> elsewhere) {
        entries(node, what, (key, value) -> {
            Consumer<Node> reader = readers.get(text(key));
            if (reader == null) {
                String known = elsewhere.apply(text(key));
                problem(
                        key,
                        known != null
                                ? known
                                : "unknown key \"" + shortened(text(key)) + "\" in " + what + ": expected one of "
                                        + String.join(", ", readers.keySet())
                                        + Nearest.hint(text(key), readers.keySet()));
            } else {
                reader.accept(value);
            }
        });
    }

    /** Calls the reader with each key and value of a mapping of user-defined names. */
    void entries(Node node, String what, BiConsumer<ScalarNode, Node> reader) {
        if (!(node instanceof MappingNode mapping)) {
            problem(node, "expected " + what + " as a mapping of names to values but found " + shown(node));
            return;
        }
        Map<String, Node> seen = new LinkedHashMap<>();
        for (NodeTuple tuple : mapping.getValue()) {
            if (!(tuple.getKeyNode() instanceof ScalarNode key)) {
                problem(tuple.getKeyNode(), "expected a name but found " + shown(tuple.getKeyNode()));
            } else if (seen.put(key.getValue(), key) != null) {
                problem(key, "the key \"" + shortened(key.getValue()) + "\" is defined twice: expected it once");
            } else {
                reader.accept(key, tuple.getValueNode());
            }
        }
    }

    /** Returns the items of a list; a single value counts as a list of one. */
    List<Node> items(Node node) {
        return node instanceof SequenceNode sequence ? sequence.getValue() : List.of(node);
    }

    /** Passes on a single value with its variables replaced. */
    void scalar(Node node, String what, Consumer<String> reader) {
        if (!(node instanceof ScalarNode scalar)) {
            problem(node, "expected " + what + " but found " + shown(node));
            return;
        }
        String original = scalar.getValue();
        String value = original;
        try {
            value = variables.replaceIn(original);
            reader.accept(value);
        } catch (IllegalArgumentException e) {
            problem(node, value.equals(original) ? e.getMessage() : withoutValue(e.getMessage(), value, original));
        }
    }

    /** Returns a message with the variable instead of its value, which may be a secret. */
    static String withoutValue(String message, String value, String original) {
        int known = value.isEmpty() ? -1 : message.indexOf("\"" + value + "\"");
        return known >= 0
                ? message.replace("\"" + value + "\"", "\"" + original + "\"")
                : "the value of \"" + original
                        + "\" cannot be used here, and is not shown, since it comes from outside";
    }

    /** Returns one of the given words, ignoring case. */
    <T> void word(Node node, String what, List<T> values, Function<T, String> name, Consumer<T> reader) {
        scalar(node, what, text -> {
            for (T value : values) {
                if (name.apply(value).equalsIgnoreCase(text)) {
                    reader.accept(value);
                    return;
                }
            }
            List<String> names = values.stream().map(name).toList();
            throw new IllegalArgumentException("\"" + shortened(text) + "\" is not a valid " + what
                    + ": expected one of " + String.join(", ", names) + Nearest.hint(text, names));
        });
    }

    void level(Node node, Consumer<Level> reader) {
        word(node, "level", LEVELS, Level::text, reader);
    }

    void condition(Node node, Consumer<Condition> reader) {
        scalar(node, "a condition", text -> {
            try {
                reader.accept(Condition.parse(text));
            } catch (ConditionException e) {
                boolean cutOff = e.column() > text.length() && text.contains("(");
                throw new IllegalArgumentException("in the condition, " + e.getMessage()
                        + (cutOff ? "\n  (a comma ends a value within { }: put the whole condition in quotes)" : ""));
            }
        });
    }

    void bool(Node node, Consumer<Boolean> reader) {
        word(node, "boolean", List.of(true, false), value -> Boolean.toString(value), reader);
    }

    private static String text(ScalarNode node) {
        return node.getValue();
    }

    private static String shortened(String text) {
        return text.length() <= LONGEST_SHOWN ? text : text.substring(0, LONGEST_SHOWN) + "…";
    }

    private static String shown(Node node) {
        if (node instanceof ScalarNode scalar) {
            return scalar.getValue().isEmpty() ? "nothing" : "\"" + shortened(scalar.getValue()) + "\"";
        }
        return node instanceof SequenceNode ? "a list" : "a mapping";
    }
}
