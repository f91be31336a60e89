package dev.graphema.cli;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Ctrl-C: the process ends, but first the verb shows what it has found so far. The JVM runs its shutdown hooks beside the main thread, so a hook that
 * waits for that thread lets it come to its end.
 */
final class Interruption {
    private static final int LONGEST_WAIT_SECONDS = 10;

    private final CountDownLatch done = new CountDownLatch(1);
    private volatile boolean asked;

    private Interruption() {}

    static Interruption awaited() {
        Interruption interruption = new Interruption();
        Runtime.getRuntime().addShutdownHook(new Thread(interruption::ask, "graphema-interruption"));
        return interruption;
    }

    private void ask() {
        asked = true;
        try {
            done.await(LONGEST_WAIT_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    boolean isAsked() {
        return asked;
    }

    /** The verb has ended. */
    void done() {
        done.countDown();
    }
}
