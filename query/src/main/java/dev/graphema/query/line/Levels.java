package dev.graphema.query.line;

import dev.graphema.event.Level;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Levels as programs write them: by usual names in any case, by their first letters, and by numbers. 1 to 24 under a name with {@code number} is
 * the severity of OpenTelemetry; 0 to 7 is that of syslog (RFC 5424); tens are 10 for the most detailed to 60 for the most severe, but under {@code levelno},
 * where 10 is debug and 50 the most severe.
 */
public final class Levels {
    private static final Map<String, Level> BY_NAME = new HashMap<>();

    static {
        put(Level.TRACE, "trace", "t", "finest", "finer", "verbose", "v", "all", "debug5", "debug4", "debug3");
        put(Level.DEBUG, "debug", "d", "fine", "config", "debug2", "debug1", "dbug");
        put(Level.INFO, "info", "i", "information", "informational", "notice", "n", "log", "statement", "inf");
        put(Level.WARN, "warn", "w", "warning", "wrn");
        put(Level.ERROR, "error", "e", "err", "severe");
        put(Level.FATAL, "fatal", "f", "critical", "c", "crit", "panic", "p", "alert", "emerg", "emergency");
    }

    private static final Level[] SYSLOG = {
        Level.FATAL, Level.FATAL, Level.FATAL, Level.ERROR, Level.WARN, Level.INFO, Level.INFO, Level.DEBUG
    };
    private static final Level[] IN_ORDER = {Level.TRACE, Level.DEBUG, Level.INFO, Level.WARN, Level.ERROR, Level.FATAL
    };

    private Levels() {}

    private static void put(Level level, String... names) {
        for (String name : names) {
            BY_NAME.put(name, level);
        }
    }

    /** The level that a text spells under that name, or null. */
    static Level of(String name, String text) {
        Level level = Level.of(text);
        if (level != null) {
            return level == Level.OFF ? null : level;
        }
        String trimmed = text.strip();
        return trimmed.matches("[0-9]{1,2}")
                ? ofNumber(name, Integer.parseInt(trimmed))
                : BY_NAME.get(trimmed.toLowerCase(Locale.ROOT));
    }

    /** The level that a number means under that name, or null. */
    static Level ofNumber(String name, long number) {
        String lower = name.toLowerCase(Locale.ROOT);
        if (lower.contains("number")) {
            return number >= 1 && number <= 24 ? IN_ORDER[(int) (number - 1) / 4] : null;
        }
        if (number >= 10 && number <= 60 && number % 10 == 0) {
            int index = (int) number / 10 - (lower.endsWith("levelno") ? 0 : 1);
            return index < IN_ORDER.length ? IN_ORDER[index] : null;
        }
        return number >= 0 && number < SYSLOG.length ? SYSLOG[(int) number] : null;
    }

    /** The level of a syslog severity, 0 to 7. */
    static Level ofSyslog(int severity) {
        return SYSLOG[severity];
    }
}
