package dev.graphema.terminal;

import dev.graphema.event.Level;
import dev.graphema.text.Escapes;
import dev.graphema.text.Utf8Buffer;

/**
 * Colours and weights of a terminal (ECMA-48). They repeat information of the text: levels from warn on are also in
 * capitals, so nothing is lost without colours.
 */
public enum Paint {
    /** No escape sequences: for files, pipes and {@code NO_COLOR}. */
    NONE,
    ANSI;

    private static final String END = "\u001b[0m";

    public void faint(Utf8Buffer to, String text) {
        painted(to, "2", text);
    }

    public void strong(Utf8Buffer to, String text) {
        painted(to, "1", text);
    }

    public void of(Level level, Utf8Buffer to, String text) {
        painted(to, code(level), text);
    }

    private void painted(Utf8Buffer to, String code, String text) {
        if (this == NONE || code.isEmpty()) {
            Escapes.visible(text, to);
        } else {
            to.ascii("\u001b[").ascii(code).ascii('m');
            Escapes.visible(text, to);
            to.ascii(END);
        }
    }

    private static String code(Level level) {
        return switch (level) {
            case TRACE, DEBUG -> "2";
            case INFO, OFF -> "";
            case WARN -> "1;35";
            case ERROR -> "1;31";
            case FATAL -> "1;7;31";
        };
    }
}
