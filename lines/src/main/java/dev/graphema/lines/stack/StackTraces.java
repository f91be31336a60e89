package dev.graphema.lines.stack;

import dev.graphema.event.Failure;
import java.util.regex.Pattern;

/**
 * Parses printed stack traces of the JVM, Node.js and .NET, whose frames begin with {@code at}, and of Python and Go; and
 * recognises the lines that belong to one. The forms are those of the languages.
 */
public final class StackTraces {
    private static final Pattern INDENTED = Pattern.compile("[ \\t].*|at .*|\\.\\.\\. .*", Pattern.DOTALL);

    private StackTraces() {}

    /** Parses the failure in a text; null if there is none. */
    public static Failure parse(String text) {
        String stripped = text.strip();
        String[] lines = stripped.split("\\R");
        if (PythonTrace.begins(lines[0])) {
            return PythonTrace.parse(lines);
        }
        Failure go = GoTrace.parse(lines);
        return go == null ? AtTrace.parse(lines) : go;
    }

    /** Returns whether a line continues the one before, whatever that is. */
    public static boolean isContinuation(String line) {
        return INDENTED.matcher(line).matches()
                || AtTrace.begins(line)
                || PythonTrace.begins(line)
                || GoTrace.begins(line);
    }
}
