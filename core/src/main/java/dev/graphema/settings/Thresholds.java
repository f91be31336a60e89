package dev.graphema.settings;

import dev.graphema.event.Level;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.TreeMap;

/**
 * The thresholds of loggers. A threshold of {@code skerry.deck} applies to this name and all names below, unless a more
 * specific one is set; the default applies to all others.
 */
public final class Thresholds {
    private final Level standard;
    private final Map<String, Level> byName;

    Thresholds(Level standard, Map<String, Level> byName) {
        this.standard = standard;
        this.byName = new TreeMap<>(byName);
    }

    /** Returns the threshold of the logger. */
    public Level of(String logger) {
        String branch = branchOf(logger);
        return branch == null ? standard : byName.get(branch);
    }

    /** Returns the name whose threshold applies to the logger; null for the default. */
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

    /** Returns the lowest threshold. */
    public Level lowest() {
        Level lowest = standard;
        for (Level each : byName.values()) {
            lowest = lowest.passes(each) ? each : lowest;
        }
        return lowest;
    }

    /** Returns all thresholds by name, the default as {@code default}. */
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
