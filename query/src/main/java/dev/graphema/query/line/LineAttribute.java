package dev.graphema.query.line;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * What a name in a line of a log means, by the names that programs usually give it. Where a line has several names for the same, the one that
 * stands first here counts, and the others are fields.
 */
public enum LineAttribute {
    TIME(
            "time",
            "timestamp",
            "@timestamp",
            "ts",
            "datetime",
            "date_time",
            "event_time",
            "eventtime",
            "time_iso8601",
            "asctime",
            "created",
            "t.$date",
            "date",
            "t",
            "time_local",
            "msec"),
    LEVEL(
            "level",
            "severity",
            "severitytext",
            "severity_text",
            "error_severity",
            "lvl",
            "loglevel",
            "log_level",
            "log.level",
            "levelname",
            "severitynumber",
            "severity_number",
            "priority",
            "levelno",
            "s"),
    MESSAGE("message", "msg", "body", "text", "event", "short_message", "log"),
    LOGGER("logger", "logger_name", "loggername", "log.logger", "category", "component", "module", "caller", "c"),
    SERVICE(
            "service",
            "service.name",
            "service_name",
            "servicename",
            "app",
            "application",
            "app_name",
            "application_name",
            "program"),
    INSTANCE("instance", "service.instance.id", "host", "host.name", "hostname", "pod"),
    THREAD("thread", "thread_name", "threadname", "thread.name", "process.thread.name", "ctx"),
    TRACE("trace", "trace_id", "traceid", "trace.id"),
    SPAN("span", "span_id", "spanid", "span.id"),
    PARENT("parent", "parent_id", "parentid", "parent_span_id", "parentspanid", "parent.id"),
    FAILURE_TYPE(
            "failure.type",
            "exception.type",
            "error.type",
            "exception_class",
            "exception.class",
            "error.class",
            "error.name",
            "err.type",
            "err.name"),
    FAILURE_MESSAGE(
            "failure.message",
            "exception.message",
            "error.message",
            "exception_message",
            "err.message",
            "error_message"),
    FAILURE_TEXT(
            "stack_trace",
            "stacktrace",
            "exception.stacktrace",
            "error.stack_trace",
            "error.stack",
            "exception.stack_trace",
            "err.stack",
            "exception",
            "throwable",
            "exc_info",
            "stack",
            "error",
            "err");

    private static final Map<String, Meaning> MEANINGS = new HashMap<>();

    static {
        for (LineAttribute role : values()) {
            for (int i = 0; i < role.names.size(); i++) {
                MEANINGS.put(role.names.get(i), new Meaning(role, i));
            }
        }
    }

    private final List<String> names;

    LineAttribute(String... names) {
        this.names = List.of(names);
    }

    /**
     * What a name means.
     *
     * @param role what it means
     * @param rank the lower, the more it counts beside other names for the same
     */
    record Meaning(LineAttribute role, int rank) {}

    /** The names, the one that counts most first; in small letters, whereas in lines case does not count. */
    public List<String> names() {
        return names;
    }

    /** The role's name as a mapping of the user's own has it. */
    public String text() {
        return name().toLowerCase(Locale.ROOT).replace('_', '.');
    }

    /** The role of that name; null when there is none. */
    public static LineAttribute of(String text) {
        for (LineAttribute role : values()) {
            if (role.text().equalsIgnoreCase(text)) {
                return role;
            }
        }
        return null;
    }

    /** The names of all roles. */
    public static List<String> texts() {
        List<String> texts = new ArrayList<>();
        for (LineAttribute role : values()) {
            texts.add(role.text());
        }
        return texts;
    }

    /** What the name means, by the user's own mapping first; null when it is a field. */
    static Meaning meaning(String name, Map<String, LineAttribute> mapping) {
        LineAttribute given = mapping.isEmpty() ? null : mapping.get(name);
        if (given != null) {
            return new Meaning(given, -1);
        }
        Meaning known = MEANINGS.get(name);
        return known != null ? known : MEANINGS.get(name.toLowerCase(Locale.ROOT));
    }

    /** The attribute as which a name in a line is read when it is not a field; null for any other name. */
    public static String readAs(String name) {
        Meaning meaning = meaning(name, Map.of());
        boolean isAttribute = meaning == null || meaning.role().text().equals(name);
        return isAttribute ? null : meaning.role().text();
    }

    /** Whether an object of that name may hold something with a role, as {@code error} with {@code error.type} does. */
    static boolean isGroup(String name) {
        String lower = name.toLowerCase(Locale.ROOT);
        return GROUPS.contains(lower);
    }

    private static final List<String> GROUPS = List.of(
            "error",
            "err",
            "exception",
            "failure",
            "service",
            "log",
            "trace",
            "span",
            "parent",
            "t",
            "host",
            "process",
            "thread");
}
