package dev.graphema.pipeline;

/**
 * Receives errors of Graphema as one line of plain text each: what happened, and what to do. Called on any thread; must
 * not block for long and must not throw exceptions.
 */
@FunctionalInterface
public interface Reporter {
    void report(String error);

    /** Prints to standard error; each line begins with {@code graphema:}. */
    static Reporter standardError() {
        return error -> System.err.println("graphema: " + error);
    }
}
