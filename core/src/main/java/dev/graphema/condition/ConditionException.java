package dev.graphema.condition;

import dev.graphema.event.GraphemaException;

/** Thrown if a text is not a condition. The message shows the position with a caret and the expected input. */
public final class ConditionException extends GraphemaException {
    private static final long serialVersionUID = 1;

    private final String condition;
    private final int column;
    private final String problem;

    ConditionException(String condition, int column, String problem) {
        super(problem + "\n  " + condition + "\n  " + " ".repeat(column - 1) + "^");
        this.condition = condition;
        this.column = column;
        this.problem = problem;
    }

    /** Returns the complete text. */
    public String condition() {
        return condition;
    }

    /**
     * Returns the column of the error, counted from 1; one more than the length of the text if something is missing at
     * the end.
     */
    public int column() {
        return column;
    }

    /** Returns the error and the expected input, in one line. */
    public String problem() {
        return problem;
    }
}
