package dev.graphema.settings;

import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.option.Option;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.SamplingRule;
import java.io.IOException;
import java.nio.charset.CharacterCodingException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import org.snakeyaml.engine.v2.nodes.Node;

/**
 * Reads {@link Settings} from YAML 1.2. Everything in the file is optional:
 *
 * <pre>{@code
 * service: deck
 * instance: ${HOSTNAME:-deck-1}
 * levels: {default: info, skerry.deck: debug}
 * context-out: [booking]
 * redaction: {detect: [payment-card]}
 * sampling:
 *   - {when: logger = skerry.gate and level <= info, keep: 1 in 20, together: trace}
 * sinks:
 *   screen: {type: console, format: columns, level: info}
 *   log: {type: file, path: logs/deck.jsonl, rotate: {at: 50MB, every: day}, keep: {days: 14, total: 2GB}}
 * routes:
 *   - {when: level >= info, to: [screen]}
 *   - {to: [log]}
 * }</pre>
 *
 * <p>Relative paths are taken from the working directory. A variable that is not set in the environment is looked for
 * among the system properties.
 */
public final class SettingsFile {
    private static final Option<Path> SPOOL_PATH = Option.path("path", "a folder such as spool");
    private static final Option<Long> SPOOL_TOTAL = Option.size("total", 1024 * 1024);

    private final Yaml yaml;
    private final Settings.Builder settings = Settings.builder();
    private final Map<String, Node> sinkNodes = new LinkedHashMap<>();
    private final Map<Node, String> routeTargets = new LinkedHashMap<>();

    private SettingsFile(String file, UnaryOperator<String> variables) {
        this.yaml = new Yaml(file, new Variables(variables));
    }

    /**
     * Reads the file.
     *
     * @throws IOException when the file cannot be read
     * @throws SettingsException when something in it is wrong; it lists every problem
     */
    public static Settings read(Path file) throws IOException {
        try {
            return parse(Files.readString(file), file.toString(), SettingsFile::variable);
        } catch (CharacterCodingException e) {
            throw new SettingsException(List.of(new Problem(file.toString(), 0, 0, "not text in UTF-8")));
        }
    }

    /**
     * Reads the text of a file.
     *
     * @param file how messages call it
     * @param variables the value of a variable, or null when it is not set
     * @throws SettingsException when something in it is wrong; it lists every problem
     */
    static Settings parse(String text, String file, UnaryOperator<String> variables) {
        SettingsFile reader = new SettingsFile(file, variables);
        reader.yaml.document(text).ifPresent(reader::top);
        if (!reader.yaml.problems().isEmpty()) {
            throw new SettingsException(reader.yaml.problems());
        }
        return reader.settings.build();
    }

    private static String variable(String name) {
        String value = System.getenv(name);
        return value == null ? System.getProperty(name) : value;
    }

    private void top(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("service", value -> yaml.scalar(value, "the service's name", settings::service));
        readers.put("instance", value -> yaml.scalar(value, "the instance's name", settings::instance));
        readers.put("levels", this::levels);
        readers.put("caller", value -> settings.caller(names(value, "the name of a logger")));
        readers.put("context-out", value -> settings.contextOut(names(value, "the name of a field")));
        readers.put("redaction", this::redaction);
        readers.put("sampling", value -> yaml.items(value).forEach(this::samplingRule));
        readers.put("sinks", this::sinks);
        readers.put("routes", value -> yaml.items(value).forEach(this::route));
        readers.put("spool", this::spool);
        readers.put("synchronous", value -> yaml.truth(value, settings::synchronous));
        yaml.mapping(node, "the settings", readers);
        routeTargets.forEach((target, name) -> {
            if (!sinkNodes.containsKey(name)) {
                yaml.problem(
                        target,
                        "no sink is called \"" + name + "\": expected "
                                + (sinkNodes.isEmpty()
                                        ? "one below sinks"
                                        : "one of " + String.join(", ", sinkNodes.keySet()))
                                + dev.graphema.event.Nearest.hint(name, sinkNodes.keySet()));
            }
        });
    }

    private void levels(Node node) {
        yaml.entries(
                node,
                "levels",
                (key, value) -> yaml.level(value, level -> {
                    if (key.getValue().equals("default")) {
                        settings.level(level);
                    } else {
                        settings.level(key.getValue(), level);
                    }
                }));
    }

    private String[] names(Node node, String what) {
        List<String> names = new ArrayList<>();
        yaml.items(node).forEach(item -> yaml.scalar(item, what, names::add));
        return names.toArray(new String[0]);
    }

    private void redaction(Node node) {
        yaml.mapping(node, "redaction", Map.of("detect", value -> {
            List<String> names = new ArrayList<>();
            for (Node item : yaml.items(value)) {
                yaml.word(item, "detector", Redactor.readyDetectors(), name -> name, names::add);
            }
            settings.detect(names.toArray(new String[0]));
        }));
    }

    private void samplingRule(Node node) {
        List<Condition> when = new ArrayList<>();
        List<Long> oneIn = new ArrayList<>();
        List<Boolean> together = new ArrayList<>();
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("when", value -> condition(value, when::add));
        readers.put("keep", value -> yaml.scalar(value, "a share such as 1 in 20", text -> oneIn.add(oneIn(text))));
        readers.put(
                "together",
                value -> yaml.word(
                        value, "way to share a fate", List.of("trace"), name -> name, name -> together.add(true)));
        int problemsBefore = yaml.problems().size();
        yaml.mapping(node, "a sampling rule", readers);
        if (yaml.problems().size() > problemsBefore) {
            return;
        }
        if (oneIn.isEmpty()) {
            yaml.problem(node, "this sampling rule does not say what to keep: expected keep: 1 in 20 or the like");
            return;
        }
        settings.sample(new SamplingRule(
                when.isEmpty() ? Condition.EVERYTHING : when.get(0), oneIn.get(0), !together.isEmpty()));
    }

    private static long oneIn(String text) {
        if (text.matches("1 +in +[0-9]{1,15}")) {
            long count = Long.parseLong(text.substring(text.lastIndexOf(' ') + 1));
            if (count >= 1) {
                return count;
            }
        }
        throw new IllegalArgumentException("\"" + text + "\" is no share: expected one such as 1 in 20");
    }

    private void sinks(Node node) {
        yaml.entries(node, "sinks", (key, value) -> {
            sinkNodes.put(key.getValue(), value);
            sink(key.getValue(), value);
        });
    }

    private void sink(String name, Node node) {
        SinkReader sink = new SinkReader(yaml, name);
        SinkSettings read = sink.read(node);
        if (read != null) {
            settings.sink(name, read);
        }
    }

    private void spool(Node node) {
        OptionsReader options = new OptionsReader(yaml);
        yaml.mapping(node, "spool", options.readers(List.of(SPOOL_PATH, SPOOL_TOTAL)));
        if (options.options().has(SPOOL_PATH)) {
            settings.spoolPath(options.options().get(SPOOL_PATH));
        }
        if (options.options().has(SPOOL_TOTAL)) {
            settings.spoolTotal(options.options().get(SPOOL_TOTAL));
        }
    }

    private void route(Node node) {
        List<Condition> when = new ArrayList<>();
        List<String> to = new ArrayList<>();
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("when", value -> condition(value, when::add));
        readers.put("to", value -> {
            for (Node item : yaml.items(value)) {
                yaml.scalar(item, "a sink's name", name -> {
                    to.add(name);
                    routeTargets.put(item, name);
                });
            }
        });
        int problemsBefore = yaml.problems().size();
        yaml.mapping(node, "a route", readers);
        if (yaml.problems().size() > problemsBefore) {
            return;
        }
        if (to.isEmpty()) {
            yaml.problem(node, "this route leads nowhere: expected to: and a list of sinks");
            return;
        }
        settings.route(when.isEmpty() ? Condition.EVERYTHING : when.get(0), to.toArray(new String[0]));
    }

    private void condition(Node node, Consumer<Condition> reader) {
        yaml.scalar(node, "a condition", text -> {
            try {
                reader.accept(Condition.parse(text));
            } catch (ConditionException e) {
                boolean cutOff = e.column() > text.length() && text.contains("(");
                throw new IllegalArgumentException("in the condition, " + e.getMessage()
                        + (cutOff ? "\n  (a comma ends a value within { }: put the whole condition in quotes)" : ""));
            }
        });
    }
}
