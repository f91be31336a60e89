package dev.graphema.lines.form;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/**
 * Attributes in lines of other programs, with their common names. If a line has several names of an attribute, the
 * first one here is used, and the others are fields.
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
     * The meaning of a name.
     *
     * @param role the attribute
     * @param rank lower ranks are preferred
     */
    record Meaning(LineAttribute role, int rank) {}

    /** Returns the names in lower case, the preferred ones first; lines may use any case. */
    public List<String> names() {
        return names;
    }

    /** Returns the name in user-defined mappings. */
    public String text() {
        return name().toLowerCase(Locale.ROOT).replace('_', '.');
    }

    /** Returns the attribute with this name; null if there is none. */
    public static LineAttribute of(String text) {
        for (LineAttribute role : values()) {
            if (role.text().equalsIgnoreCase(text)) {
                return role;
            }
        }
        return null;
    }

    /** Returns the names of all attributes. */
    public static List<String> texts() {
        List<String> texts = new ArrayList<>();
        for (LineAttribute role : values()) {
            texts.add(role.text());
        }
        return texts;
    }

    /** Returns the meaning of a name, first by the user-defined mapping; null for a field. */
    static Meaning meaning(String name, Map<String, LineAttribute> mapping) {
        LineAttribute given = mapping.isEmpty() ? null : mapping.get(name);
        if (given != null) {
            return new Meaning(given, -1);
        }
        Meaning known = MEANINGS.get(name);
        return known != null ? known : MEANINGS.get(name.toLowerCase(Locale.ROOT));
    }

    /** Returns the attribute as which a name is read if it is different from the name; null for any other name. */
    public static String readAs(String name) {
        Meaning meaning = meaning(name, Map.of());
        boolean isAttribute = meaning == null || meaning.role().text().equals(name);
        return isAttribute ? null : meaning.role().text();
    }

    /**
     * Returns whether an object with this name may contain an attribute, such as {@code error} with {@code error.type}.
     */
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
