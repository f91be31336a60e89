package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.option.Option;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import org.snakeyaml.engine.v2.nodes.Node;

/** Reads hold-back from a settings file. */
final class HoldBackReader {
    static final Option<Integer> EVENTS = Option.count("events", 1, 1_000_000);
    static final Option<Integer> GROUPS = Option.count("groups", 1, 10_000_000);
    static final Option<Long> BYTES = Option.size("bytes", 64 * 1024);
    static final Option<Duration> TIME = Option.duration("time");

    /** The limits. */
    static final List<Option<?>> BOUNDS = List.of(EVENTS, GROUPS, BYTES, TIME);

    private final Yaml yaml;
    private HoldBackRule rule = HoldBackRule.USUAL;

    HoldBackReader(Yaml yaml) {
        this.yaml = yaml;
    }

    /** Passes on the rule of the node, unless it has errors, which have been recorded. */
    void read(Node node, Consumer<HoldBackRule> reader) {
        int problemsBefore = yaml.problems().size();
        OptionsReader options = new OptionsReader(yaml);
        Map<String, Consumer<Node>> readers = new LinkedHashMap<>();
        readers.put(
                "below", value -> yaml.word(value, "level", levels(), Level::text, level -> rule = rule.below(level)));
        readers.put("by", value -> yaml.scalar(value, "trace, or a field's name", name -> rule = rule.by(name)));
        readers.put("release-when", value -> yaml.condition(value, condition -> rule = rule.releaseWhen(condition)));
        readers.putAll(options.readers(BOUNDS));
        yaml.mapping(node, "hold-back", readers);
        put(options, EVENTS, HoldBackRule::events);
        put(options, GROUPS, HoldBackRule::groups);
        put(options, BYTES, HoldBackRule::bytes);
        put(options, TIME, HoldBackRule::time);
        if (yaml.problems().size() == problemsBefore) {
            reader.accept(rule);
        }
    }

    /** The levels below which events can be held back. */
    static List<Level> levels() {
        return List.of(Level.DEBUG, Level.INFO, Level.WARN, Level.ERROR, Level.FATAL);
    }

    private <T> void put(OptionsReader options, Option<T> option, BiFunction<HoldBackRule, T, HoldBackRule> with) {
        if (options.options().has(option)) {
            rule = with.apply(rule, options.options().get(option));
        }
    }
}
