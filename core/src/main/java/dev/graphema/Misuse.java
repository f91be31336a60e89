package dev.graphema;

import java.util.concurrent.atomic.AtomicLong;

/**
 * Wrong uses of scopes and operations. They are reported as warnings of the logger {@code dev.graphema}, the first time and then
 * ever more rarely, because such a mistake is usually repeated at every request.
 */
enum Misuse {
    NEVER_CLOSED("scope never closed", "close it in a try with resources"),
    OUT_OF_ORDER(
            "scope closed out of order", "close scopes in the order in which they were opened, the last one first"),
    OTHER_THREAD(
            "scope closed by another thread", "close it where it was opened; carry context with Context.capture()"),
    NEVER_ENDED("operation never ended", "close it in a try with resources");

    private final String message;
    private final String remedy;
    private final AtomicLong times = new AtomicLong();

    Misuse(String message, String remedy) {
        this.message = message;
        this.remedy = remedy;
    }

    /** @param what the name of the scope or operation; never a value of an event */
    void report(String what) {
        long count = times.incrementAndGet();
        if (Long.bitCount(count) == 1) {
            Logger.named("dev.graphema")
                    .warn(
                            message,
                            f -> f.put("what", what)
                                    .put("thread", Thread.currentThread().getName())
                                    .put("times", count)
                                    .put("remedy", remedy));
        }
    }
}
