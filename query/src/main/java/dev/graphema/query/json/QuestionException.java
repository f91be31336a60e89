package dev.graphema.query.json;

import dev.graphema.event.GraphemaException;

/** Thrown if a text is not a question; the message contains the place, the value, and the expectation. */
public final class QuestionException extends GraphemaException {
    private static final long serialVersionUID = 1;

    QuestionException(String message) {
        super(message);
    }

    QuestionException(String message, Throwable cause) {
        super(message, cause);
    }
}
