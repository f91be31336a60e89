package dev.graphema.lines.stack;

/** Follows the lines of a stack trace, of which some are not indented. For one thread, one trace after the other. */
public final class OpenTrace {
    private enum Kind {
        NONE,
        PYTHON,
        GO
    }

    private Kind kind = Kind.NONE;

    /** Starts again with the first line of an event. */
    public void begin(String message) {
        kind = PythonTrace.begins(message) ? Kind.PYTHON : message.startsWith("panic: ") ? Kind.GO : Kind.NONE;
    }

    /** Returns whether a line continues the trace, or any event. */
    public boolean isContinued(String line) {
        if (PythonTrace.begins(line)) {
            kind = Kind.PYTHON;
            return true;
        }
        if (GoTrace.begins(line)) {
            kind = Kind.GO;
            return true;
        }
        if (kind == Kind.PYTHON && PythonTrace.ends(line)) {
            kind = Kind.NONE;
            return true;
        }
        return kind == Kind.GO && GoTrace.isFunction(line) || StackTraces.isContinuation(line);
    }
}
