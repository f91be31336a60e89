package dev.graphema.event;

import java.util.Locale;

/**
 * How severe an event is, from most detailed to most severe. The severity numbers are those of the OpenTelemetry log
 * data model, so that levels of other systems compare with ours.
 *
 * <p>{@link #OFF} is a threshold only: nothing is said at it, and a source whose threshold is OFF says nothing.
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

    /** The OpenTelemetry severity number: 1, 5, 9, 13, 17, 21, and the largest int for {@link #OFF}. */
    public int severity() {
        return severity;
    }

    /** The level's name in lower case, as it stands in settings, conditions and files. */
    public String text() {
        return text;
    }

    /** Whether an event of this level passes the threshold: it is as severe, or more. */
    public boolean passes(Level threshold) {
        return severity >= threshold.severity;
    }

    /** The level of that name in any case, or null when there is none. */
    public static Level of(String name) {
        for (Level level : values()) {
            if (level.text.equalsIgnoreCase(name)) {
                return level;
            }
        }
        return null;
    }
}
