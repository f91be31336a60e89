package dev.graphema.settings;

import dev.graphema.event.Level;
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
        String name = logger;
        while (true) {
            Level level = byName.get(name);
            if (level != null) {
                return level;
            }
            int dot = name.lastIndexOf('.');
            if (dot < 0) {
                return standard;
            }
            name = name.substring(0, dot);
        }
    }

    @Override
    public String toString() {
        return "default " + standard.text() + ", " + byName;
    }
}
