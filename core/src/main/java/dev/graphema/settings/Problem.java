package dev.graphema.settings;

/**
 * Something wrong with a settings file.
 *
 * @param file the file as it was named
 * @param line where, counted from 1; 0 when the whole file is concerned
 * @param column where in the line, counted from 1; 0 when the whole file is concerned
 * @param text what is wrong and what was expected
 */
public record Problem(String file, int line, int column, String text) {
    /** {@code file:line:column: text} */
    @Override
    public String toString() {
        return line == 0 ? file + ": " + text : file + ":" + line + ":" + column + ": " + text;
    }
}
