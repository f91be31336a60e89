package dev.graphema.event;

import java.util.Locale;

/**
 * The severity of an event, from most detailed to most severe, with the severity numbers of the OpenTelemetry log data
 * model.
 *
 * <p>{@link #OFF} is only a threshold: no event has this level, and a logger with the threshold OFF emits nothing.
 */
public enum Level {
    TRACE(1),
    DEBUG(5),
    INFO(9),
    WARN(13),
    ERROR(17),
    FATAL(21),
    OFF(Integer.MAX_VALUE);

    private final int severity;
    private final String text;

    Level(int severity) {
        this.severity = severity;
        this.text = name().toLowerCase(Locale.ROOT);
    }

    /** Returns the OpenTelemetry severity number: 1, 5, 9, 13, 17, 21, and the largest int for {@link #OFF}. */
    public int severity() {
        return severity;
    }

    /** Returns the name in lower case, as in settings, conditions and files. */
    public String text() {
        return text;
    }

    /** Returns whether an event of this level passes the threshold. */
    public boolean passes(Level threshold) {
        return severity >= threshold.severity;
    }

    /** Returns the level with this name, ignoring case, or null. */
    public static Level of(String name) {
        for (Level level : values()) {
            if (level.text.equalsIgnoreCase(name)) {
                return level;
            }
        }
        return null;
    }
}
