package dev.graphema.lines.shape;

import dev.graphema.event.Level;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;

/**
 * Parses levels of other programs: common words in any case, first letters, and numbers. 1 to 24 under a name with
 * {@code number} are severities of OpenTelemetry; 0 to 7 are those of syslog (RFC 5424); multiples of ten range from 10
 * for the most detailed to 60 for the most severe, but under {@code levelno} from 10 for debug to 50.
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

    /** Returns the level of a text under this name, or null. */
    public static Level of(String name, String text) {
        Level level = Level.of(text);
        if (level != null) {
            return level == Level.OFF ? null : level;
        }
        String trimmed = text.strip();
        return trimmed.matches("[0-9]{1,2}")
                ? ofNumber(name, Integer.parseInt(trimmed))
                : BY_NAME.get(trimmed.toLowerCase(Locale.ROOT));
    }

    /** Returns whether a text is a word of a level, not only a letter or a number. */
    public static boolean isWord(String text) {
        String word = text.strip().toLowerCase(Locale.ROOT);
        return word.length() > 2 && BY_NAME.containsKey(word) && !word.equals("all") && !word.equals("config");
    }

    /** Returns the level of a number under this name, or null. */
    public static Level ofNumber(String name, long number) {
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

    /** Returns the level of a syslog severity, 0 to 7. */
    public static Level ofSyslog(int severity) {
        return SYSLOG[severity];
    }
}
