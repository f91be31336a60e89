package dev.graphema.query.line;

/** A line is no event; the message says what was expected. Told, and never thrown on. */
public final class UnreadableLineException extends Exception {
    private static final long serialVersionUID = 1;

    UnreadableLineException(String message) {
        super(message, null, false, false);
    }
}
