package skerry.booking;

/** Thrown if the bank does not answer. */
public final class BankTimeoutException extends Exception {
    private static final long serialVersionUID = 1;

    public BankTimeoutException(long seconds) {
        super("no answer from the bank within " + seconds + " s");
    }
}
