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

    /** Returns the position of the first stack trace in a text, at the beginning of a line; -1 if there is none. */
    public static int find(String text) {
        int at = 0;
        while (at < text.length()) {
            int end = text.indexOf('\n', at);
            String line = text.substring(at, end < 0 ? text.length() : end);
            int next = end < 0 ? text.length() : end + 1;
            int nextEnd = text.indexOf('\n', next);
            String following = text.substring(next, nextEnd < 0 ? text.length() : nextEnd);
            if (PythonTrace.begins(line) || GoTrace.begins(line) || AtTrace.begins(line, following)) {
                return at;
            }
            at = next;
        }
        return -1;
    }

    /**
     * Returns the end of the stack trace at a position: behind its last frame, if its frames begin with {@code at}, or else
     * that of the text.
     */
    public static int end(String text, int from) {
        int end = -1;
        int at = from;
        while (at < text.length()) {
            int feed = text.indexOf('\n', at);
            int next = feed < 0 ? text.length() : feed + 1;
            end = AtTrace.isFrame(text.substring(at, feed < 0 ? next : feed)) ? next : end;
            at = next;
        }
        return end < 0 || PythonTrace.begins(text.substring(from)) ? text.length() : end;
    }

    /** Returns whether a line continues the one before, of any kind. */
    public static boolean isContinuation(String line) {
        return INDENTED.matcher(line).matches()
                || AtTrace.begins(line)
                || PythonTrace.begins(line)
                || GoTrace.begins(line);
    }
}
