package dev.graphema.cli.arguments;

/** Thrown if the command is invalid. The message contains the argument and the expected input; exit code 2. */
public final class MisuseException extends Exception {
    private static final long serialVersionUID = 1;

    public MisuseException(String message) {
        super(message);
    }
}
