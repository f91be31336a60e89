package dev.graphema.settings;

import dev.graphema.condition.Condition;
import dev.graphema.option.Option;
import dev.graphema.sampling.Keep;
import dev.graphema.sampling.SamplingRule;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
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
    private static final Option<Duration> WATCH = Option.duration("watch");
    private static final Option<Path> SPOOL_PATH = Option.path("path", "a folder such as spool");
    private static final Option<Long> SPOOL_TOTAL = Option.size("total", 1024 * 1024);

    private final Yaml yaml;
    private final Settings.Builder settings = Settings.builder();
    private final Map<String, Node> sinkNodes = new LinkedHashMap<>();
    private final Map<Node, String> routeTargets = new LinkedHashMap<>();

    /** @param file the name in messages */
    SettingsFile(String file, UnaryOperator<String> variables) {
        this.yaml = new Yaml(file, new Variables(variables));
    }

    /**
     * Reads the file.
     *
     * @throws IOException if the file cannot be read
     * @throws SettingsException if it has errors; lists all of them
     */
    public static Settings read(Path file) throws IOException {
        return SettingsSource.of(file).read();
    }

    /**
     * Reads the text of a file.
     *
     * @param file the name in messages
     * @param variables returns the value of a variable, or null if it is not set
     * @throws SettingsException if it has errors; lists all of them
     */
    static Settings parse(String text, String file, UnaryOperator<String> variables) {
        SettingsFile reader = new SettingsFile(file, variables);
        reader.yaml.document(text).ifPresent(reader::top);
        return reader.finished();
    }

    Yaml yaml() {
        return yaml;
    }

    Settings.Builder settings() {
        return settings;
    }

    /**
     * Returns the settings.
     *
     * @throws SettingsException if there were errors
     */
    Settings finished() {
        if (!yaml.problems().isEmpty()) {
            throw new SettingsException(yaml.problems());
        }
        try {
            return settings.build();
        } catch (IllegalArgumentException e) {
            throw new SettingsException(List.of(new Problem("the program", 0, 0, e.getMessage())));
        }
    }

    void top(Node node) {
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("service", value -> yaml.scalar(value, "the service's name", settings::service));
        readers.put("instance", value -> yaml.scalar(value, "the instance's name", settings::instance));
        readers.put("levels", this::levels);
        readers.put("caller", value -> settings.caller(names(value, "the name of a logger")));
        readers.put("context-out", value -> settings.contextOut(names(value, "the name of a field")));
        readers.put("context-in", value -> settings.contextIn(names(value, "the name of a field")));
        readers.put("context-hosts", this::contextHosts);
        readers.put("trust-callers", value -> yaml.bool(value, settings::trustCallers));
        readers.put("redaction", this::redaction);
        readers.put("sampling", value -> yaml.items(value).forEach(this::samplingRule));
        readers.put("hold-back", this::holdBack);
        readers.put("sinks", this::sinks);
        readers.put("routes", value -> yaml.items(value).forEach(this::route));
        readers.put(
                "routing",
                value -> yaml.word(
                        value,
                        "way to route",
                        List.of(false, true),
                        first -> first ? "first" : "all",
                        settings::firstMatch));
        readers.put("detail-from-callers", value -> yaml.bool(value, settings::detailFromCallers));
        readers.put("watch", this::watch);
        readers.put("spool", this::spool);
        readers.put("synchronous", value -> yaml.bool(value, settings::synchronous));
        // These three were seen to before: what is read here is the file with all that it includes and its profile.
        List.of("include", "profile", "profiles").forEach(name -> readers.put(name, value -> {}));
        yaml.mapping(node, "the settings", readers);
        routeTargets.forEach((target, name) -> {
            if (!sinkNodes.containsKey(name) && !settings.hasSink(name)) {
                yaml.problem(
                        target,
                        "no sink is called \"" + name + "\": expected "
                                + (sinkNodes.isEmpty()
                                        ? "one below sinks"
                                        : "one of " + String.join(", ", sinkNodes.keySet()))
                                + dev.graphema.text.Nearest.hint(name, sinkNodes.keySet()));
            }
        });
    }

    private void levels(Node node) {
        yaml.entries(
                node,
                "levels",
                (key, value) -> yaml.level(value, level -> {
                    settings.place("levels." + key.getValue(), Yaml.place(key));
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
        new RedactionReader(yaml).read(node, settings::redaction);
    }

    private void samplingRule(Node node) {
        List<Condition> when = new ArrayList<>();
        List<Keep> keep = new ArrayList<>();
        List<Boolean> together = new ArrayList<>();
        boolean[] errors = {false};
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put("when", value -> yaml.condition(value, when::add));
        readers.put("keep", value -> yaml.scalar(value, "a share such as 1 in 20", text -> keep.add(Keep.parse(text))));
        readers.put(
                "together",
                value -> yaml.word(
                        value, "way to share a fate", List.of("trace"), name -> name, name -> together.add(true)));
        readers.put("errors", value -> yaml.bool(value, on -> errors[0] = on));
        int problemsBefore = yaml.problems().size();
        yaml.mapping(node, "a sampling rule", readers);
        if (yaml.problems().size() > problemsBefore) {
            return;
        }
        if (keep.isEmpty()) {
            yaml.problem(node, "this sampling rule has no keep: expected keep: 1 in 20 or the like");
            return;
        }
        settings.place("sampling." + settings.samplingCount(), Yaml.place(node));
        try {
            settings.sample(new SamplingRule(
                    when.isEmpty() ? Condition.EVERYTHING : when.get(0), keep.get(0), !together.isEmpty(), errors[0]));
        } catch (IllegalArgumentException e) {
            yaml.problem(node, e.getMessage());
        }
    }

    private void holdBack(Node node) {
        settings.place("hold-back", Yaml.place(node));
        new HoldBackReader(yaml).read(node, settings::holdBack);
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
            settings.place("sinks." + name, Yaml.place(node));
            settings.sink(name, read);
        }
    }

    private void watch(Node node) {
        yaml.scalar(
                node,
                "never, or a duration such as 2s",
                text -> settings.watchEvery(text.equalsIgnoreCase("never") ? Duration.ZERO : WATCH.read(text)));
    }

    private void contextHosts(Node node) {
        String[] hosts = names(node, "the name of a host");
        try {
            settings.contextHosts(hosts);
        } catch (IllegalArgumentException e) {
            yaml.problem(node, e.getMessage());
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
        readers.put("when", value -> yaml.condition(value, when::add));
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
        settings.place("routes." + settings.routeCount(), Yaml.place(node));
        settings.route(when.isEmpty() ? Condition.EVERYTHING : when.get(0), to.toArray(new String[0]));
    }
}
