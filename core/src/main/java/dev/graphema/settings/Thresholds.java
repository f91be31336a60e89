package dev.graphema.settings;

import dev.graphema.event.Level;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;

/**
 * The least severe level that each logger says. A threshold set for {@code skerry.deck} holds for that name and every name
 * below it, until one set further down refines it; the default holds for all others.
 */
public final class Thresholds {
    private final Level standard;
    private final Map<String, Level> byName;

    Thresholds(Level standard, Map<String, Level> byName) {
        this.standard = standard;
        this.byName = new TreeMap<>(byName);
    }

    /** The threshold of that logger. */
    public Level of(String logger) {
        String branch = branchOf(logger);
        return branch == null ? standard : byName.get(branch);
    }

    /** The name for which the logger's threshold was set, its own or that of a branch; null when the default holds. */
    public String branchOf(String logger) {
        String name = logger;
        while (!byName.containsKey(name)) {
            int dot = name.lastIndexOf('.');
            if (dot < 0) {
                return null;
            }
            name = name.substring(0, dot);
        }
        return name;
    }

    /** The least severe level that any logger says. */
    public Level lowest() {
        Level lowest = standard;
        for (Level each : byName.values()) {
            lowest = lowest.passes(each) ? each : lowest;
        }
        return lowest;
    }

    /** All thresholds by name, the default as {@code default}. */
    public Map<String, Level> byName() {
        Map<String, Level> all = new LinkedHashMap<>();
        all.put("default", standard);
        all.putAll(byName);
        return all;
    }

    @Override
    public String toString() {
        return "default " + standard.text() + ", " + byName;
    }
}
