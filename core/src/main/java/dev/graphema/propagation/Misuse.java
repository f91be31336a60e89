package dev.graphema.propagation;

import java.util.concurrent.atomic.AtomicLong;

/**
 * Wrong uses of scopes and operations. They are reported the first time and then ever more rarely, because such a mistake is
 * usually repeated with every request.
 */
public enum Misuse {
    NEVER_CLOSED("scope never closed", "close it in a try with resources"),
    OUT_OF_ORDER(
            "scope closed out of order", "close scopes in the order in which they were opened, the last one first"),
    OTHER_THREAD(
            "scope closed by another thread", "close it where it was opened; carry context with Context.capture()"),
    NEVER_ENDED("operation never ended", "close it in a try with resources"),
    LOST_CONTEXT(
            "event without context in the common pool",
            "pass CompletableFuture an executor that Context.carry(...) returns, or carry the context with"
                    + " Context.capture()");

    private final String message;
    private final String remedy;
    private final AtomicLong times = new AtomicLong();

    Misuse(String message, String remedy) {
        this.message = message;
        this.remedy = remedy;
    }

    /** Returns the message of the report. */
    public String message() {
        return message;
    }

    /** Returns what to do about it. */
    public String remedy() {
        return remedy;
    }

    /**
     * Counts a use.
     *
     * @return how many there were; 0 if this one is not to be reported
     */
    public long count() {
        long count = times.incrementAndGet();
        return Long.bitCount(count) == 1 ? count : 0;
    }
}
