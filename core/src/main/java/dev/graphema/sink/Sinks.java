package dev.graphema.sink;

import dev.graphema.option.Selection;
import java.util.List;
import java.util.Map;

/** The available kinds of sinks. */
public final class Sinks {
    public static final SinkKind CONSOLE = new ConsoleKind();
    public static final SinkKind FILE = new FileKind();

    private static final Selection<SinkKind> KINDS = Selection.of(SinkKind.class, List.of(CONSOLE, FILE));

    /** The modules of kinds that are not in the core. */
    private static final Map<String, String> MODULES = Map.of(
            "http", "graphema-delivery",
            "otlp", "graphema-delivery",
            "syslog", "graphema-delivery",
            "sql", "graphema-sql");

    private Sinks() {}

    /** Returns all available kinds. */
    public static Selection<SinkKind> kinds() {
        return KINDS;
    }

    /** Returns the module of a missing kind, or null. */
    public static String moduleOf(String kind) {
        return KINDS.named(kind) == null ? MODULES.get(kind) : null;
    }
}
