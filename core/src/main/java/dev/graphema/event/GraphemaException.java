package dev.graphema.event;

/** The base of every unchecked exception that Graphema throws itself. Its text never contains the value of an event. */
public class GraphemaException extends RuntimeException {
    private static final long serialVersionUID = 1;

    public GraphemaException(String message) {
        super(message);
    }

    public GraphemaException(String message, Throwable cause) {
        super(message, cause);
    }
}
