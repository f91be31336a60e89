package dev.graphema.event;

/** The base class of all unchecked exceptions of Graphema. Messages never contain values of events. */
public class GraphemaException extends RuntimeException {
    private static final long serialVersionUID = 1;

    public GraphemaException(String message) {
        super(message);
    }

    public GraphemaException(String message, Throwable cause) {
        super(message, cause);
    }
}
