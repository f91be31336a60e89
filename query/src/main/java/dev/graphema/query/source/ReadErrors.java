package dev.graphema.query.source;

import java.io.IOException;
import java.nio.file.AccessDeniedException;

/** Describes why something cannot be read. */
public final class ReadErrors {
    private ReadErrors() {}

    /** Returns the reason as part of a sentence. */
    public static String of(IOException problem) {
        if (problem instanceof AccessDeniedException) {
            return "not allowed; check who may read it";
        }
        return problem.getMessage() == null ? problem.getClass().getSimpleName() : problem.getMessage();
    }
}
