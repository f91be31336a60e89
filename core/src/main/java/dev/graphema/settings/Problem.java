package dev.graphema.settings;

import dev.graphema.format.Escapes;
import java.util.stream.Collectors;

/**
 * Something wrong with a settings file.
 *
 * @param file the file as it was named
 * @param line where, counted from 1; 0 when the whole file is concerned
 * @param column where in the line, counted from 1; 0 when the whole file is concerned
 * @param text what is wrong and what was expected; what comes from the file is shortened where it is long, and control
 *     characters in it are shown as escapes
 */
public record Problem(String file, int line, int column, String text) {
    private static final int LONGEST_TEXT = 2_000;

    public Problem {
        text = harmless(text.length() <= LONGEST_TEXT ? text : text.substring(0, LONGEST_TEXT) + "…");
    }

    /** Lines stay: a message may show a condition with a mark below it. */
    private static String harmless(String text) {
        return text.lines().map(Escapes::visible).collect(Collectors.joining("\n"));
    }

    /** {@code file:line:column: text} */
    @Override
    public String toString() {
        return line == 0 ? file + ": " + text : file + ":" + line + ":" + column + ": " + text;
    }
}
