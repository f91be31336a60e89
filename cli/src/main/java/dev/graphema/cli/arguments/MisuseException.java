package dev.graphema.cli.arguments;

/** The command was called with something it cannot use. The message says what, and what was expected; exit code 2. */
public final class MisuseException extends Exception {
    private static final long serialVersionUID = 1;

    public MisuseException(String message) {
        super(message);
    }
}
