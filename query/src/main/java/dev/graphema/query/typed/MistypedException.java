package dev.graphema.query.typed;

import dev.graphema.event.GraphemaException;

/** Thrown if a text is not a question. The message has the error and the expected input. */
public final class MistypedException extends GraphemaException {
    private static final long serialVersionUID = 1;

    private final int column;

    MistypedException(int column, String problem, Throwable cause) {
        super(problem, cause);
        this.column = column;
    }

    /** Returns the column of the error, counted from 1; one more than the length of the text if something is missing at its end. */
    public int column() {
        return column;
    }
}
