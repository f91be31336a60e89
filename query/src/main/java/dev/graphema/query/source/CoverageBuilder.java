package dev.graphema.query.source;

import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Coverage.Place;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Records what is read of a source and what cannot be, and stops the reading if its {@link Control} demands that. Each
 * thread records in a {@linkplain #part() part}, which is added to the whole at its end.
 */
public final class CoverageBuilder {
    /** The most recorded places of a problem; all are counted. */
    public static final int MOST_PLACES = 100;

    private final long start;
    private final Control control;
    private final CoverageBuilder whole;
    private final Problems unreadable = new Problems();
    private final Problems damaged = new Problems();
    private final List<Place> failures = new ArrayList<>();
    private final List<String> truncated = new ArrayList<>();
    private long files;
    private long events;
    private long bytes;
    private long totalBytes;
    private boolean isEstimate;
    private volatile boolean isStopped;

    /** @param control watches the progress */
    public CoverageBuilder(Control control) {
        this(control, null, System.nanoTime());
    }

    private CoverageBuilder(Control control, CoverageBuilder whole, long start) {
        this.control = control;
        this.start = start;
        this.whole = whole;
    }

    /** Returns a part for another thread, whose bytes are added immediately. */
    public CoverageBuilder part() {
        return new CoverageBuilder(control, whole(), start);
    }

    /** Returns a new one for another pass over the same events. */
    CoverageBuilder again() {
        return new CoverageBuilder(control, null, start);
    }

    /** Returns the whole of this part, or this. */
    public CoverageBuilder whole() {
        return whole == null ? this : whole;
    }

    /** Removes all counts except the bytes: the same events are read again. */
    public void restart() {
        events = 0;
        unreadable.clear();
        damaged.clear();
    }

    /** Adds the counts of a part. */
    public synchronized void add(CoverageBuilder part) {
        events += part.events;
        part.unreadable.list().forEach(unreadable::add);
        part.damaged.list().forEach(damaged::add);
        part.failures.forEach(failure -> failed(failure.source(), failure.reason()));
    }

    /** Adds what was recorded elsewhere. */
    public synchronized void add(Coverage other) {
        files += other.files();
        events += other.events();
        bytes += other.bytes();
        other.unreadable().forEach(unreadable::add);
        other.damaged().forEach(damaged::add);
        other.failures().forEach(failure -> failed(failure.source(), failure.reason()));
    }

    /**
     * Announces files to read.
     *
     * @param count their number
     * @param size their size in bytes
     */
    public synchronized void files(long count, long size) {
        files += count;
        totalBytes += size;
    }

    /**
     * Records read bytes.
     *
     * @return whether to continue
     */
    public synchronized boolean bytes(long count) {
        if (whole != null) {
            isStopped = !whole.bytes(count);
            return !isStopped;
        }
        bytes += count;
        isStopped = isStopped || !control.continues(new Control.Progress(events, bytes, totalBytes));
        return !isStopped;
    }

    /** Records an event. */
    public void event() {
        events++;
    }

    /** Records some events. */
    public void events(long count) {
        events += count;
    }

    /** Records events that were excluded without being read. */
    public void excluded(long count) {
        events += count;
    }

    /**
     * Records something that is not an event.
     *
     * @param line 0 if there are no lines
     */
    public void unreadable(String source, long line, String reason) {
        unreadable.add(source, line, reason);
    }

    /** Records an event that could be read only in part. */
    public void damaged(String source, long line, String reason) {
        damaged.add(source, line, reason);
    }

    /** Records a file, table or service that could not be read completely, once for all its parts. */
    public synchronized void failed(String source, String reason) {
        if (failures.stream().noneMatch(each -> each.source().equals(source))) {
            failures.add(new Place(source, 0, reason));
        }
    }

    /** Records why the answer is limited. */
    public synchronized void truncated(String reason) {
        truncated.add(reason);
    }

    /** Records that sampled events were counted. */
    public synchronized void estimated() {
        isEstimate = true;
    }

    /** Returns whether reading was stopped. */
    public boolean isStopped() {
        return isStopped;
    }

    /** Returns what was recorded so far. */
    public synchronized Coverage coverage() {
        return new Coverage(
                files,
                events,
                bytes,
                totalBytes,
                unreadable.list(),
                damaged.list(),
                failures,
                truncated,
                isEstimate,
                isStopped,
                Duration.ofNanos(System.nanoTime() - start));
    }
}
