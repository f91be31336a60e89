package skerry.deck;

/** Thrown if a lane was locked for too long. */
public final class LaneTimeoutException extends Exception {
    private static final long serialVersionUID = 1;

    public LaneTimeoutException(String lane, long millis) {
        super("lane " + lane + " was not free within " + millis + " ms");
    }
}
