package dev.graphema.settings;

import dev.graphema.text.Escapes;
import java.util.stream.Collectors;

/**
 * An error in a settings file.
 *
 * @param file the name of the file
 * @param line the line, counted from 1; 0 if the error concerns the file as a whole
 * @param column the column, counted from 1; 0 if the error concerns the file as a whole
 * @param text the error and the expected input; long text from the file is shortened, and its control characters are
 *     escaped
 */
public record Problem(String file, int line, int column, String text) {
    private static final int LONGEST_TEXT = 2_000;

    public Problem {
        text = harmless(text.length() <= LONGEST_TEXT ? text : text.substring(0, LONGEST_TEXT) + "…");
    }

    /** Line feeds are kept: a message may show a condition with a caret below it. */
    private static String harmless(String text) {
        return text.lines().map(Escapes::visible).collect(Collectors.joining("\n"));
    }

    /** {@code file:line:column: text} */
    @Override
    public String toString() {
        return line == 0 ? file + ": " + text : file + ":" + line + ":" + column + ": " + text;
    }
}
