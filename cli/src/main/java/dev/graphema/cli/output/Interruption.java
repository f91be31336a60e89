package dev.graphema.cli.output;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;

/**
 * Handles Ctrl-C: before the process ends, the command shows its results so far. Shutdown hooks run concurrently with
 * the main thread, so this hook waits for it.
 */
public final class Interruption {
    private static final int LONGEST_WAIT_SECONDS = 10;

    private final CountDownLatch done = new CountDownLatch(1);
    private volatile boolean asked;

    private Interruption() {}

    public static Interruption awaited() {
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

    public boolean isAsked() {
        return asked;
    }

    /** The command has ended. */
    public void done() {
        done.countDown();
    }
}
