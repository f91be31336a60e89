package skerry.booking;

/** A booking that cannot be confirmed, with the status of the answer. */
final class Refusal extends Exception {
    private static final long serialVersionUID = 1;

    private final int status;

    Refusal(int status, String reason) {
        super(reason);
        this.status = status;
    }

    int status() {
        return status;
    }
}
