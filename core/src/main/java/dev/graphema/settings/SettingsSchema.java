package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.format.FormatKind;
import dev.graphema.format.Formats;
import dev.graphema.option.Option;
import dev.graphema.redaction.Detectors;
import dev.graphema.sink.SinkKind;
import dev.graphema.sink.Sinks;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.snakeyaml.engine.v2.api.Dump;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;
import org.snakeyaml.engine.v2.common.ScalarStyle;

/**
 * The JSON Schema (draft 2020-12) of a settings file, with which editors complete and check it. Generated from the
 * descriptions that the reader uses, for all sinks and formats on the class path.
 */
public final class SettingsSchema {
    private static final Map<String, Object> VARIABLE = described("", Map.of("type", "string", "pattern", "\\$\\{"));

    private SettingsSchema() {}

    /** Returns the schema as JSON. */
    public static String json() {
        // JSON is YAML in its flow style, with different scalars.
        return new Dump(DumpSettings.builder()
                        .setDefaultFlowStyle(FlowStyle.FLOW)
                        .setDefaultScalarStyle(ScalarStyle.JSON_SCALAR_STYLE)
                        .setMultiLineFlow(true)
                        .setSplitLines(false)
                        .setDereferenceAliases(true)
                        .build())
                .dumpToString(top())
                // An empty line behind every object is of no use to anybody.
                .replaceAll("\n\\s*\n", "\n");
    }

    private static Map<String, Object> top() {
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put("service", text("the name of the service"));
        properties.put("instance", text("the name of the instance"));
        properties.put("levels", names("thresholds by dotted logger name; default for all others", level()));
        properties.put(
                "caller", list("loggers whose events contain the calling class, method and line", text("a logger")));
        properties.put("context-out", list("fields of the context that are sent as W3C Baggage", text("a field")));
        properties.put("context-in", list("names of W3C Baggage that are accepted from callers", text("a field")));
        properties.put("context-hosts", list("hosts to which trace and context are sent", text("a host")));
        properties.put(
                "trust-callers", bool("whether baggage, tracestate and the sampled flag of callers are accepted"));
        properties.put("redaction", redaction());
        properties.put("sampling", list("sampling rules; the first whose condition is true decides", rule()));
        properties.put("hold-back", holdBack());
        properties.put("sinks", names("sinks by name", sink()));
        properties.put("routes", list("which events are written to which sinks", route()));
        properties.put(
                "routing", words("whether all matching routes apply, or only the first", List.of("all", "first")));
        properties.put("detail-from-callers", bool("whether callers can request more detail about their requests"));
        properties.put("watch", text("how often the file is checked for changes: a duration, or never"));
        properties.put("spool", object("where events wait that cannot be written immediately", spool(), List.of()));
        properties.put("synchronous", bool("whether the calling thread writes each event"));
        properties.put("include", list("files on which this one is based", text("a path, from this file")));
        properties.put("profile", list("the profile, if none is selected from outside", text("a profile")));
        Map<String, Object> self = Map.of("$ref", "#");
        properties.put("profiles", names("settings that override the others, by name", self));
        Map<String, Object> top = new LinkedHashMap<>();
        top.put("$schema", "https://json-schema.org/draft/2020-12/schema");
        top.put("$id", "https://graphema.dev/schemas/settings-1.json");
        top.put("title", "Settings of Graphema");
        top.putAll(object("", properties, List.of()));
        return top;
    }

    private static Map<String, Object> spool() {
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put("path", text("a folder"));
        properties.put("total", text("a size such as 256MB"));
        return properties;
    }

    private static Map<String, Object> redaction() {
        Map<String, Object> pattern = new LinkedHashMap<>();
        pattern.put("find", text("a pattern in RE2 syntax"));
        pattern.put("when", text("a substring that a text must contain so that the pattern runs"));
        Map<String, Object> pseudonyms = new LinkedHashMap<>();
        pseudonyms.put("id", text("a name for the key"));
        pseudonyms.put("key", text("16 characters or more, as a variable"));
        Map<String, Object> treatment = text("fixed, remove, mask, last 4, network or pseudonym");
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put(
                "detect", list("detectors", words("a detector", Detectors.all().names())));
        properties.put("patterns", names("custom patterns, by name", object("", pattern, List.of("find"))));
        properties.put("treat", names("treatments, by detector or pattern", treatment));
        properties.put("keys", names("treatments of fields, by name", treatment));
        properties.put("sensitive", names("treatments of values of sensitive keys, by kind of secret", treatment));
        properties.put("pseudonyms", object("the key for pseudonyms", pseudonyms, List.of("key")));
        return object("redaction", properties, List.of());
    }

    private static Map<String, Object> rule() {
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put("when", text("a condition"));
        properties.put("keep", text("1 in 20, 5%, 100/s burst 500, or first 10 in 1m then 1 in 100"));
        properties.put("together", words("what is kept or dropped together", List.of("trace")));
        properties.put("errors", bool("whether errors are sampled, too"));
        return object("a sampling rule", properties, List.of("keep"));
    }

    private static Map<String, Object> holdBack() {
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put(
                "below",
                words(
                        "less severe events are held back",
                        HoldBackReader.levels().stream().map(Level::text).toList()));
        properties.put("by", text("trace, or a field whose value groups events"));
        properties.put("release-when", text("a condition that releases the group of the event"));
        for (Option<?> bound : HoldBackReader.BOUNDS) {
            properties.put(bound.name(), text(bound.expected()));
        }
        return object("detail that is written only if a later event releases it", properties, List.of());
    }

    private static Map<String, Object> route() {
        Map<String, Object> properties = new LinkedHashMap<>();
        properties.put("when", text("a condition"));
        properties.put("to", list("sinks", text("a sink's name")));
        return object("a route", properties, List.of("to"));
    }

    private static Map<String, Object> sink() {
        List<Object> kinds = new ArrayList<>();
        for (SinkKind kind : Sinks.kinds().all()) {
            Map<String, Object> properties = new LinkedHashMap<>();
            properties.put("type", described(kind.meaning(), Map.of("const", kind.name())));
            properties.put("level", level());
            properties.put("durable", bool("whether accepted events survive a sudden end of the process"));
            if (kind.usualFormat() != null) {
                properties.put("format", format());
            }
            kinds.add(choice("", properties, kind.options()));
        }
        return Map.of("anyOf", kinds);
    }

    private static Map<String, Object> format() {
        List<Object> ways = new ArrayList<>();
        ways.add(words("the format of events", Formats.kinds().names()));
        for (FormatKind kind : Formats.kinds().all()) {
            Map<String, Object> properties = new LinkedHashMap<>();
            properties.put("type", described(kind.meaning(), Map.of("const", kind.name())));
            ways.add(choice("", properties, kind.options()));
        }
        return Map.of("anyOf", ways);
    }

    /** Returns an object with the properties and the options, whose dotted names become nested objects. */
    @SuppressWarnings("unchecked") // groups are made here
    private static Map<String, Object> choice(String text, Map<String, Object> properties, List<Option<?>> options) {
        List<String> required = new ArrayList<>(List.of("type"));
        for (Option<?> option : options) {
            Map<String, Object> into = properties;
            String name = option.name();
            for (int dot = name.indexOf('.'); dot >= 0; dot = name.indexOf('.')) {
                Map<String, Object> group = (Map<String, Object>) into.computeIfAbsent(
                        name.substring(0, dot), key -> object("", new LinkedHashMap<>(), List.of()));
                into = (Map<String, Object>) group.get("properties");
                name = name.substring(dot + 1);
            }
            into.put(name, option(option));
            if (option.isRequired()) {
                required.add(name);
            }
        }
        return object(text, properties, required);
    }

    private static Map<String, Object> option(Option<?> option) {
        String text = option.meaning() + " (" + option.expected() + "; default: " + option.standardText() + ")";
        Map<String, Object> value = option.words().equals(List.of("true", "false"))
                ? bool(text)
                : option.words().isEmpty() ? text(text) : words(text, option.words());
        return switch (option.shape()) {
            case SCALAR -> value;
            case LIST -> list(text, value);
            case NAMES -> names(text, value);
            case TREE -> described(text, Map.of("type", "object"));
        };
    }

    private static Map<String, Object> level() {
        return words(
                "a threshold", Arrays.stream(Level.values()).map(Level::text).toList());
    }

    private static Map<String, Object> text(String text) {
        return described(text, Map.of("type", List.of("string", "number", "boolean")));
    }

    private static Map<String, Object> bool(String text) {
        return described(text, Map.of("anyOf", List.of(Map.of("type", "boolean"), VARIABLE)));
    }

    private static Map<String, Object> words(String text, List<String> words) {
        List<Object> values = new ArrayList<>(words);
        values.replaceAll(word -> word.equals("true") || word.equals("false") ? Boolean.valueOf((String) word) : word);
        return described(text, Map.of("anyOf", List.of(Map.of("enum", values), VARIABLE)));
    }

    private static Map<String, Object> list(String text, Map<String, Object> item) {
        return described(text, Map.of("anyOf", List.of(item, described("", Map.of("type", "array", "items", item)))));
    }

    private static Map<String, Object> names(String text, Map<String, Object> value) {
        return described(text, Map.of("type", "object", "additionalProperties", value));
    }

    private static Map<String, Object> object(String text, Map<String, Object> properties, List<String> required) {
        Map<String, Object> object = new LinkedHashMap<>();
        object.put("type", "object");
        object.put("additionalProperties", false);
        object.put("properties", properties);
        if (!required.isEmpty()) {
            object.put("required", required);
        }
        return described(text, object);
    }

    /** Has a fixed order, unlike immutable maps of the JDK. */
    private static Map<String, Object> described(String text, Map<String, Object> schema) {
        Map<String, Object> described = new LinkedHashMap<>();
        if (!text.isEmpty()) {
            described.put("description", text);
        }
        schema.entrySet().stream()
                .sorted(Map.Entry.comparingByKey())
                .forEach(entry -> described.put(entry.getKey(), entry.getValue()));
        return described;
    }
}
