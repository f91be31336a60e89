package dev.graphema.pipeline;

/**
 * Told about Graphema's own troubles, in one line of plain text that says what happened and what to do. Called by any
 * thread; it must not block for long and not throw.
 */
@FunctionalInterface
public interface Reporter {
    void report(String trouble);

    /** Writes to standard error, each line beginning with {@code graphema:}. */
    static Reporter standardError() {
        return trouble -> System.err.println("graphema: " + trouble);
    }
}
