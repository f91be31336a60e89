package dev.graphema.collector.ingest;

import dev.graphema.collector.http.Problem;
import dev.graphema.collector.input.TopicRecord;
import dev.graphema.event.Event;
import dev.graphema.segments.store.Store;
import java.io.IOException;
import java.util.List;
import java.util.concurrent.atomic.LongAdder;
import java.util.function.Consumer;

/** Appends lines to the store. Thread-safe. */
public final class Intake {
    private static final int LATER_SECONDS = 5;

    private final Store store;
    private final ArrivingLines arriving;
    private final Runnable stored;
    private final Consumer<String> problems;
    private final LongAdder events = new LongAdder();
    private final LongAdder bytes = new LongAdder();
    private final LongAdder refused = new LongAdder();
    private volatile boolean isRefusing;

    /**
     * @param arriving turns lines into those that are stored
     * @param stored is called after lines were stored, for those who want to see them at once
     * @param problems receives what the operator should know
     */
    public Intake(Store store, ArrivingLines arriving, Runnable stored, Consumer<String> problems) {
        this.store = store;
        this.arriving = arriving;
        this.stored = stored;
        this.problems = problems;
    }

    /**
     * Stores lines of a sender; they are on the disk when this returns.
     *
     * @return the number of lines, or of the events that they were read as
     * @throws Problem if the disk does not accept them; nothing may be assumed to be stored
     */
    public int take(byte[] lines, Origin origin) throws Problem {
        try {
            return store(arriving.stored(lines, origin));
        } catch (IOException e) {
            throw new Problem(
                    503,
                    "Not stored",
                    "the collector cannot store events at the moment: send the same again later",
                    LATER_SECONDS);
        }
    }

    /**
     * Stores events of a sender; they are on the disk when this returns.
     *
     * @throws IOException if the disk does not accept them, which is reported; nothing may be assumed to be stored
     */
    public void take(List<Event> events, Origin origin) throws IOException {
        store(arriving.stored(events, origin));
    }

    /**
     * Stores lines of a followed file.
     *
     * @throws IOException as above
     */
    public void takeFollowed(byte[] lines, Origin origin) throws IOException {
        store(arriving.stored(lines, origin));
    }

    /**
     * Stores the events of records.
     *
     * @throws IOException as above
     */
    public void takeRecords(List<TopicRecord> records, Origin origin) throws IOException {
        store(arriving.storedOfRecords(records, origin));
    }

    private int store(byte[] lines) throws IOException {
        try {
            store.append(lines);
        } catch (IOException e) {
            refused.increment();
            isRefusing = true;
            problems.accept("events are refused, because they cannot be stored: " + e.getMessage());
            throw e;
        }
        isRefusing = false;
        int count = count(lines);
        events.add(count);
        bytes.add(lines.length);
        stored.run();
        return count;
    }

    /** Returns the number of stored lines since the start. */
    public long events() {
        return events.sum();
    }

    /** Returns their bytes. */
    public long bytes() {
        return bytes.sum();
    }

    /** Returns how many times the disk did not accept lines. */
    public long refused() {
        return refused.sum();
    }

    /** Returns whether the disk did not accept the last lines. */
    public boolean isRefusing() {
        return isRefusing;
    }

    private static int count(byte[] lines) {
        int count = 0;
        for (byte each : lines) {
            count += each == '\n' ? 1 : 0;
        }
        return lines.length == 0 || lines[lines.length - 1] == '\n' ? count : count + 1;
    }
}
