package dev.graphema.collector.http;

/** Thrown to answer a request with a problem document (RFC 9457). The message describes the problem and what to do. */
public final class Problem extends Exception {
    private static final long serialVersionUID = 1;

    private final int status;
    private final String title;
    private final int retryAfterSeconds;
    private final int column;

    public Problem(int status, String title, String detail) {
        this(status, title, detail, 0);
    }

    /** @param retryAfterSeconds when to try again; 0 for never */
    public Problem(int status, String title, String detail, int retryAfterSeconds) {
        this(status, title, detail, retryAfterSeconds, 0);
    }

    private Problem(int status, String title, String detail, int retryAfterSeconds, int column) {
        super(detail);
        this.column = column;
        this.status = status;
        this.title = title;
        this.retryAfterSeconds = retryAfterSeconds;
    }

    /** Returns the HTTP status. */
    public int status() {
        return status;
    }

    String title() {
        return title;
    }

    /** Adds the column of an error in a text, counted from 1. */
    public Problem atColumn(int place) {
        return new Problem(status, title, getMessage(), retryAfterSeconds, place);
    }

    int column() {
        return column;
    }

    int retryAfterSeconds() {
        return retryAfterSeconds;
    }
}
