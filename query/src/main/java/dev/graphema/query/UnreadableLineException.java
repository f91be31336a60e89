package dev.graphema.query;

/** A line is no event; the message says what was expected. Never leaves the package. */
final class UnreadableLineException extends Exception {
    private static final long serialVersionUID = 1;

    UnreadableLineException(String message) {
        super(message, null, false, false);
    }
}
