package dev.graphema.lines.form;

/** Thrown if a line is not an event; the message contains the expected form. It is reported and not passed on. */
public final class UnreadableLineException extends Exception {
    private static final long serialVersionUID = 1;

    UnreadableLineException(String message) {
        super(message, null, false, false);
    }
}
