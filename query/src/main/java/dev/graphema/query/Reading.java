package dev.graphema.query;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;

/** What was read, and what could not be; updated while events are read. */
public final class Reading {
    /** The most recorded positions; all are counted. */
    static final int MOST_KEPT = 100;

    /**
     * A line that is not an event.
     *
     * @param file the file
     * @param line its number, counted from 1
     * @param reason what was expected
     */
    public record Unreadable(Path file, long line, String reason) {
        @Override
        public String toString() {
            return file + (line == 0 ? ": " : ":" + line + ": ") + reason;
        }
    }

    private final List<Unreadable> unreadable = new ArrayList<>();
    private final List<Unreadable> damaged = new ArrayList<>();
    private final List<Unreadable> failures = new ArrayList<>();
    private long damagedCount;
    private long files;
    private long events;
    private long passedOver;
    private long unreadableCount;
    private final long totalBytes;
    private final Predicate<Reading> goesOn;
    private long bytes;
    private volatile boolean stopped;
    private Reading whole;

    /** @param totalBytes the number of bytes to read; 0 if unknown @param goesOn returns whether to continue */
    Reading(long totalBytes, Predicate<Reading> goesOn) {
        this.totalBytes = totalBytes;
        this.goesOn = goesOn;
    }

    /** Returns a part for another thread, whose bytes are added immediately. */
    Reading part() {
        Reading part = new Reading(0, goesOn);
        part.whole = this;
        return part;
    }

    /** Returns the whole of this part, or this. */
    Reading whole() {
        return whole == null ? this : whole;
    }

    /** Removes all counts except the bytes: the logs are read again. */
    void restart() {
        events = 0;
        passedOver = 0;
        unreadableCount = 0;
        damagedCount = 0;
        unreadable.clear();
        damaged.clear();
    }

    /** Adds the counts of a part. */
    synchronized void add(Reading part) {
        events += part.events;
        passedOver += part.passedOver;
        unreadableCount += part.unreadableCount;
        damagedCount += part.damagedCount;
        keep(part.unreadable, unreadable);
        keep(part.damaged, damaged);
        for (Unreadable failure : part.failures) {
            failed(failure.file(), failure.reason());
        }
    }

    private static void keep(List<Unreadable> more, List<Unreadable> in) {
        if (more.isEmpty()) {
            return;
        }
        for (Unreadable each : more) {
            if (in.size() < MOST_KEPT) {
                in.add(each);
            }
        }
        in.sort(Comparator.comparing(Unreadable::file).thenComparing(Unreadable::line));
    }

    /** Adds read bytes. @return whether to continue */
    synchronized boolean bytes(long count) {
        if (whole != null) {
            stopped = !whole.bytes(count);
            return !stopped;
        }
        bytes += count;
        stopped = stopped || !goesOn.test(this);
        return !stopped;
    }

    /** Returns the number of read bytes; for compressed files, of compressed bytes. */
    public long bytes() {
        return bytes;
    }

    /** Returns the number of bytes to read; 0 if unknown. */
    public long totalBytes() {
        return totalBytes;
    }

    /** Returns whether reading was stopped before the end. */
    public boolean isStopped() {
        return stopped;
    }

    void file() {
        files++;
    }

    void event() {
        events++;
    }

    void passedOver(long count) {
        passedOver += count;
    }

    void unreadable(Path file, long line, String reason) {
        unreadableCount++;
        if (unreadable.size() < MOST_KEPT) {
            unreadable.add(new Unreadable(file, line, reason));
        }
    }

    /** Records an event that could be read only in part. */
    void damaged(Path file, long line, String reason) {
        damagedCount++;
        if (damaged.size() < MOST_KEPT) {
            damaged.add(new Unreadable(file, line, reason));
        }
    }

    /** Records a file that could not be read completely, once for all its chunks. */
    synchronized void failed(Path file, String reason) {
        if (failures.stream().noneMatch(each -> each.file().equals(file))) {
            failures.add(new Unreadable(file, 0, reason));
        }
    }

    /** Returns the number of events that could be read only in part, among those that were read completely. */
    public long damagedCount() {
        return damagedCount;
    }

    /** Returns the first of these lines. */
    public List<Unreadable> damaged() {
        return List.copyOf(damaged);
    }

    /** Returns the files that could not be read completely; the answer may lack their events. The line is 0. */
    public List<Unreadable> failures() {
        return List.copyOf(failures);
    }

    /** Returns the number of files. */
    public long files() {
        return files;
    }

    /**
     * Returns the number of events before condition and window were applied. A line that was excluded without being
     * read counts as an event.
     */
    public long events() {
        return events + passedOver;
    }

    /** Returns the number of lines that are not events, among those that were read. */
    public long unreadableCount() {
        return unreadableCount;
    }

    /** Returns the first lines that are not events. */
    public List<Unreadable> unreadable() {
        return List.copyOf(unreadable);
    }
}
