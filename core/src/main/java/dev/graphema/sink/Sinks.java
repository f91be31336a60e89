package dev.graphema.sink;

import dev.graphema.option.Selection;
import java.util.List;
import java.util.Map;

/** The kinds of sink that can be named. */
public final class Sinks {
    public static final SinkKind CONSOLE = new ConsoleKind();
    public static final SinkKind FILE = new FileKind();

    private static final Selection<SinkKind> KINDS = Selection.of(SinkKind.class, List.of(CONSOLE, FILE));

    /** Where kinds are found that do not come with the core. */
    private static final Map<String, String> MODULES = Map.of(
            "http", "graphema-delivery",
            "otlp", "graphema-delivery",
            "syslog", "graphema-delivery",
            "sql", "graphema-jdbc");

    private Sinks() {}

    /** All kinds that can be named. */
    public static Selection<SinkKind> kinds() {
        return KINDS;
    }

    /** The module that a kind comes with when it is not there, or null. */
    public static String moduleOf(String kind) {
        return KINDS.named(kind) == null ? MODULES.get(kind) : null;
    }
}
