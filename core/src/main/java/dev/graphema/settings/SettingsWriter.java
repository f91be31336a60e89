package dev.graphema.settings;

import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.Route;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.snakeyaml.engine.v2.api.Dump;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.FlowStyle;

/**
 * Writes settings as YAML that {@link SettingsFile} reads as equal settings. A value with variables is written with
 * them; a secret without variables is written as a variable. Comments name custom sinks and values of the program.
 */
public final class SettingsWriter {
    private SettingsWriter() {}

    public static String yaml(Settings settings) {
        Map<String, Object> top = new LinkedHashMap<>();
        put(top, "service", settings.service());
        put(top, "instance", settings.instance());
        Map<String, Object> levels = new LinkedHashMap<>();
        settings.thresholds().byName().forEach((name, level) -> levels.put(name, level.text()));
        top.put("levels", levels);
        put(top, "caller", settings.callers());
        contextExchange(top, settings.contextExchange());
        if (!settings.redaction().equals(RedactionSettings.USUAL)) {
            top.put("redaction", redaction(settings.redaction()));
        }
        put(
                top,
                "sampling",
                settings.sampling().stream().map(SettingsWriter::rule).toList());
        settings.holdBack().ifPresent(rule -> top.put("hold-back", holdBack(rule)));
        Map<String, Object> sinks = new LinkedHashMap<>();
        List<String> given = new ArrayList<>();
        settings.sinks().forEach((name, sink) -> {
            if (sink.kind() == null) {
                given.add(name);
            } else {
                sinks.put(name, sink(name, sink));
            }
        });
        top.put("sinks", sinks);
        put(top, "routes", settings.routes().stream().map(SettingsWriter::route).toList());
        if (settings.firstMatch()) {
            top.put("routing", "first");
        }
        if (settings.takesDetailMarks()) {
            top.put("detail-from-callers", true);
        }
        top.put(
                "watch",
                settings.watchEvery().isZero()
                        ? "never"
                        : Option.duration("watch").write(settings.watchEvery()));
        Map<String, Object> spool = new LinkedHashMap<>();
        spool.put("path", settings.spoolPath().toString());
        spool.put("total", Option.size("total", 1).write(settings.spoolTotal()));
        top.put("spool", spool);
        if (settings.synchronous()) {
            top.put("synchronous", true);
        }
        String comment =
                (given.isEmpty() ? "" : "# The program gives these sinks itself: " + String.join(", ", given) + "\n")
                        + (settings.values().isEmpty()
                                ? ""
                                : "# The program gives these values itself: "
                                        + String.join(", ", settings.values().keySet()) + "\n");
        return comment
                + new Dump(DumpSettings.builder()
                                .setDefaultFlowStyle(FlowStyle.BLOCK)
                                .setWidth(120)
                                .build())
                        .dumpToString(top);
    }

    private static void contextExchange(Map<String, Object> top, ContextExchange exchange) {
        put(top, "context-out", exchange.out());
        if (exchange.in() != null) {
            top.put("context-in", exchange.in());
        }
        if (!exchange.trustsCallers()) {
            top.put("trust-callers", false);
        }
        if (!exchange.hosts().equals(ContextExchange.USUAL.hosts())) {
            top.put("context-hosts", exchange.hosts());
        }
    }

    private static Map<String, Object> redaction(RedactionSettings redaction) {
        Map<String, Object> written = new LinkedHashMap<>();
        written.put("detect", redaction.detectors());
        Map<String, Object> patterns = new LinkedHashMap<>();
        redaction.patterns().forEach((name, pattern) -> {
            Map<String, Object> each = new LinkedHashMap<>();
            each.put("find", pattern.find());
            put(each, "when", pattern.when());
            patterns.put(name, each);
        });
        put(written, "patterns", patterns);
        put(written, "treat", redaction.treatments());
        put(written, "keys", redaction.keys());
        put(written, "sensitive", redaction.sensitive());
        if (redaction.pseudonymKey() != null) {
            Map<String, Object> pseudonyms = new LinkedHashMap<>();
            pseudonyms.put("id", redaction.pseudonymKeyId());
            pseudonyms.put("key", "${GRAPHEMA_PSEUDONYM_KEY}");
            written.put("pseudonyms", pseudonyms);
        }
        return written;
    }

    private static Map<String, Object> rule(SamplingRule rule) {
        Map<String, Object> written = new LinkedHashMap<>();
        put(written, "when", rule.when().toString());
        written.put("keep", rule.keep().text());
        if (rule.together()) {
            written.put("together", "trace");
        }
        if (rule.errors()) {
            written.put("errors", true);
        }
        return written;
    }

    private static Map<String, Object> holdBack(HoldBackRule rule) {
        Map<String, Object> written = new LinkedHashMap<>();
        written.put("below", rule.below().text());
        written.put("by", rule.by());
        written.put("release-when", rule.releaseWhen().toString());
        written.put("events", rule.events());
        written.put("groups", rule.groups());
        written.put("bytes", HoldBackReader.BYTES.write(rule.bytes()));
        written.put("time", HoldBackReader.TIME.write(rule.time()));
        return written;
    }

    private static Map<String, Object> route(Route route) {
        Map<String, Object> written = new LinkedHashMap<>();
        put(written, "when", route.when().toString());
        written.put("to", route.to());
        return written;
    }

    private static Map<String, Object> sink(String name, SinkSettings sink) {
        Map<String, Object> written = new LinkedHashMap<>();
        written.put("type", sink.kind().name());
        if (sink.threshold() != Level.TRACE) {
            written.put("level", sink.threshold().text());
        }
        if (sink.durable()) {
            written.put("durable", true);
        }
        if (sink.format() != null && sink.formatOptions().isEmpty()) {
            written.put("format", sink.format().name());
        } else if (sink.format() != null) {
            Map<String, Object> format = new LinkedHashMap<>();
            format.put("type", sink.format().name());
            options(name, sink.format().options(), sink.formatOptions(), format);
            written.put("format", format);
        }
        options(name, sink.kind().options(), sink.options(), written);
        return written;
    }

    private static void options(String sink, List<Option<?>> choices, Options options, Map<String, Object> to) {
        for (Option<?> choice : choices) {
            if (options.has(choice)) {
                Object value = options.toWrite(choice);
                place(choice.name(), value == null ? secret(sink, choice) : value, to);
            }
        }
    }

    /** The variable for a secret, to be set when the program is started. */
    private static Object secret(String sink, Option<?> option) {
        String variable =
                "${" + (sink + "_" + option.name()).toUpperCase(Locale.ROOT).replaceAll("[^A-Z0-9]", "_") + "}";
        return option.shape() == Option.Shape.NAMES ? Map.of("x-secret", variable) : variable;
    }

    /** Puts a value with a dotted name into nested mappings. */
    @SuppressWarnings("unchecked") // groups are put by this method alone
    private static void place(String name, Object value, Map<String, Object> to) {
        int dot = name.indexOf('.');
        if (dot < 0) {
            to.put(name, value);
        } else {
            Map<String, Object> group =
                    (Map<String, Object>) to.computeIfAbsent(name.substring(0, dot), key -> new LinkedHashMap<>());
            place(name.substring(dot + 1), value, group);
        }
    }

    private static void put(Map<String, Object> to, String name, Object value) {
        boolean isNothing = value == null
                || value instanceof String text && text.isEmpty()
                || value instanceof List<?> list && list.isEmpty()
                || value instanceof Map<?, ?> map && map.isEmpty();
        if (!isNothing) {
            to.put(name, value);
        }
    }
}
