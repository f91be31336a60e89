package dev.graphema.condition;

import dev.graphema.event.GraphemaException;

/** A text is not a condition. The message shows the place with a caret and says what was expected there. */
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

    /** The whole text. */
    public String condition() {
        return condition;
    }

    /** Where it went wrong, counted from 1; one more than the text has characters when something is missing at its end. */
    public int column() {
        return column;
    }

    /** What is wrong and what was expected, in one line. */
    public String problem() {
        return problem;
    }
}
