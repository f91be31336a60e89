package dev.graphema.collector.ingest;

import dev.graphema.collector.http.Problem;
import dev.graphema.segments.store.Store;
import java.io.IOException;
import java.util.concurrent.Semaphore;
import java.util.function.Consumer;

/** Appends lines to the store, with a bound for the memory of those that wait. Thread-safe. */
public final class Intake {
    /** Bytes of bodies, in kilobytes, that may wait for the disk together. */
    private static final int MOST_WAITING_KILOBYTES = 96 << 10;

    private static final int KILOBYTE = 1 << 10;
    private static final int SOON_SECONDS = 1;
    private static final int LATER_SECONDS = 5;

    private final Store store;
    private final Consumer<byte[]> stored;
    private final Consumer<String> problems;
    private final Semaphore room = new Semaphore(MOST_WAITING_KILOBYTES);

    /**
     * @param stored receives lines after they are stored, for those who want to see them at once
     * @param problems receives what the operator should know
     */
    public Intake(Store store, Consumer<byte[]> stored, Consumer<String> problems) {
        this.store = store;
        this.stored = stored;
        this.problems = problems;
    }

    /**
     * Stores lines; they are on the disk when this returns.
     *
     * @return the number of lines
     * @throws Problem if there is no room at the moment, or the disk does not accept them; nothing may be assumed to be stored
     */
    public int take(byte[] lines) throws Problem {
        int kilobytes = Math.min(MOST_WAITING_KILOBYTES, lines.length / KILOBYTE + 1);
        if (!room.tryAcquire(kilobytes)) {
            throw new Problem(
                    429,
                    "Too much at once",
                    "more arrives than the disk can take: send the same again later",
                    SOON_SECONDS);
        }
        try {
            store.append(lines);
        } catch (IOException e) {
            problems.accept("events are refused, because they cannot be stored: " + e.getMessage());
            throw new Problem(
                    503,
                    "Not stored",
                    "the collector cannot store events at the moment: send the same again later",
                    LATER_SECONDS);
        } finally {
            room.release(kilobytes);
        }
        stored.accept(lines);
        return count(lines);
    }

    private static int count(byte[] lines) {
        int count = 0;
        for (byte each : lines) {
            count += each == '\n' ? 1 : 0;
        }
        return lines.length == 0 || lines[lines.length - 1] == '\n' ? count : count + 1;
    }
}
