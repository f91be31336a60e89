package dev.graphema.collector.ingest;

import dev.graphema.collector.http.Problem;
import dev.graphema.segments.store.Store;
import java.io.IOException;
import java.util.function.Consumer;

/** Appends lines to the store. Thread-safe. */
public final class Intake {
    private static final int LATER_SECONDS = 5;

    private final Store store;
    private final ArrivingLines arriving;
    private final Consumer<byte[]> stored;
    private final Consumer<String> problems;

    /**
     * @param arriving turns lines into those that are stored
     * @param stored receives lines after they are stored, for those who want to see them at once
     * @param problems receives what the operator should know
     */
    public Intake(Store store, ArrivingLines arriving, Consumer<byte[]> stored, Consumer<String> problems) {
        this.store = store;
        this.arriving = arriving;
        this.stored = stored;
        this.problems = problems;
    }

    /**
     * Stores lines of a sender; they are on the disk when this returns.
     *
     * @return the number of lines
     * @throws Problem if the disk does not accept them; nothing may be assumed to be stored
     */
    public int take(byte[] lines, Origin origin) throws Problem {
        byte[] kept = arriving.stored(lines, origin);
        try {
            store.append(kept);
        } catch (IOException e) {
            problems.accept("events are refused, because they cannot be stored: " + e.getMessage());
            throw new Problem(
                    503,
                    "Not stored",
                    "the collector cannot store events at the moment: send the same again later",
                    LATER_SECONDS);
        }
        stored.accept(kept);
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
