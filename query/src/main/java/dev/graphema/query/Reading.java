package dev.graphema.query;

import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.Predicate;

/** What was read, and what could not be: counted while events are taken, and complete when the last one was. */
public final class Reading {
    /** How many unreadable lines are kept with their place; all are counted. */
    static final int MOST_KEPT = 100;

    /**
     * A line that is no event.
     *
     * @param file where it stands
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

    /**
     * @param totalBytes how many bytes there are to be read; 0 when that is not known
     * @param goesOn asked from time to time whether to go on
     */
    Reading(long totalBytes, Predicate<Reading> goesOn) {
        this.totalBytes = totalBytes;
        this.goesOn = goesOn;
    }

    /** A reading of a part, by a thread of its own, whose bytes count for the whole at once. */
    Reading part() {
        Reading part = new Reading(0, goesOn);
        part.whole = this;
        return part;
    }

    /** That of which this is a part, or this. */
    Reading whole() {
        return whole == null ? this : whole;
    }

    /** Forgets what was read so far, but for its bytes: it is read once more. */
    void restart() {
        events = 0;
        passedOver = 0;
        unreadableCount = 0;
        damagedCount = 0;
        unreadable.clear();
        damaged.clear();
    }

    /** Adds what was read of a part. */
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

    /** Notes that bytes were read; whether to go on. */
    synchronized boolean bytes(long count) {
        if (whole != null) {
            stopped = !whole.bytes(count);
            return !stopped;
        }
        bytes += count;
        stopped = stopped || !goesOn.test(this);
        return !stopped;
    }

    /** The number of bytes that were read, compressed ones as they lie there. */
    public long bytes() {
        return bytes;
    }

    /** The number of bytes that there are; 0 when that is not known. */
    public long totalBytes() {
        return totalBytes;
    }

    /** Whether reading was stopped before the end, so that not all events were seen. */
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

    /** A line that is an event, of which something could not be read. */
    void damaged(Path file, long line, String reason) {
        damagedCount++;
        if (damaged.size() < MOST_KEPT) {
            damaged.add(new Unreadable(file, line, reason));
        }
    }

    /** A file that could not be read, or not to its end; told once, however many parts of it there are. */
    synchronized void failed(Path file, String reason) {
        if (failures.stream().noneMatch(each -> each.file().equals(file))) {
            failures.add(new Unreadable(file, 0, reason));
        }
    }

    /** The number of events of which something could not be read, among those that were read as a whole. */
    public long damagedCount() {
        return damagedCount;
    }

    /** The first of the lines of those events. */
    public List<Unreadable> damaged() {
        return List.copyOf(damaged);
    }

    /** The files that could not be read, or not to their ends: the answer may lack what is in them. Their line is 0. */
    public List<Unreadable> failures() {
        return List.copyOf(failures);
    }

    /** The number of files. */
    public long files() {
        return files;
    }

    /**
     * The number of events, before condition and window were asked. A line that could not hold an event that was asked for
     * is counted without being read, and so is taken for one.
     */
    public long events() {
        return events + passedOver;
    }

    /** The number of lines that are no events, among those that had to be read. */
    public long unreadableCount() {
        return unreadableCount;
    }

    /** The first of the lines that are no events. */
    public List<Unreadable> unreadable() {
        return List.copyOf(unreadable);
    }
}
