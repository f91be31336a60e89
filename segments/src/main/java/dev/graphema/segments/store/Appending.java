package dev.graphema.segments.store;

import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.LogBatch;
import dev.graphema.segments.log.LogWriter;
import java.io.Closeable;
import java.io.IOException;
import java.time.Instant;
import java.util.concurrent.locks.ReentrantLock;

/**
 * Appends lines to the current log. While one thread waits for the disk, the others gather what the next one writes, so that many
 * of them share a sync. Thread-safe.
 */
final class Appending implements Closeable {
    private final StoreFolder folder;
    private final Disk disk;
    private final StoreOptions options;
    private final Runnable rolled;
    private final RecentIds ids;
    private final EventIds idOfLine = new EventIds();

    /** Held while a batch is written. */
    private final ReentrantLock writing = new ReentrantLock();

    private final Object gathering = new Object();

    /** What the next thread writes; guarded by gathering. */
    private Batch next = new Batch(new LogBatch());

    /** The array of the last batch, to be used for the batch after the next; null while it is in use. Guarded by gathering. */
    private LogBatch spare;

    private LogWriter log;
    private long number;
    private Instant firstEvent;
    private boolean isClosed;

    /** Lines of several threads. */
    private static final class Batch {
        private final LogBatch lines;
        private boolean isDone;
        private IOException problem;

        Batch(LogBatch empty) {
            lines = empty;
        }
    }

    /**
     * @param number the number of the first log, which does not exist
     * @param ids the known ids
     * @param rolled is called when a log is complete
     */
    Appending(StoreFolder folder, Disk disk, StoreOptions options, long number, RecentIds ids, Runnable rolled)
            throws IOException {
        this.folder = folder;
        this.disk = disk;
        this.options = options;
        this.ids = ids;
        this.rolled = rolled;
        this.number = number;
        this.log = new LogWriter(folder.log(number), disk);
    }

    /** Appends lines, each with its line feed, and returns when they survive a power failure. */
    void append(byte[] lines, int from, int length) throws IOException {
        Batch mine;
        synchronized (gathering) {
            mine = next;
            mine.lines.add(lines, from, length);
        }
        writing.lock();
        try {
            if (!mine.isDone) {
                synchronized (gathering) {
                    next = new Batch(spare == null ? new LogBatch() : spare);
                    spare = null;
                }
                try {
                    write(mine);
                } finally {
                    reuse(mine.lines);
                }
            }
        } finally {
            writing.unlock();
        }
        if (mine.problem != null) {
            throw new IOException("the events could not be stored: " + mine.problem.getMessage(), mine.problem);
        }
    }

    private void reuse(LogBatch lines) {
        synchronized (gathering) {
            spare = lines.clear();
        }
    }

    private void write(Batch batch) {
        // Stays if an error ends this, since then it is not known whether the batch is in the log.
        batch.problem = new IOException("an unexpected error ended the writing");
        batch.isDone = true;
        try {
            requireOpen();
            if (log.isBroken()) {
                roll();
            }
            RecentIds ofBatch = new RecentIds();
            removeKnown(batch.lines, ofBatch);
            if (!batch.lines.isEmpty()) {
                log.add(batch.lines);
                ids.addAll(ofBatch);
                firstEvent = firstEvent == null ? options.clock().instant() : firstEvent;
            }
            batch.problem = null;
        } catch (IOException e) {
            batch.problem = e;
        }
        if (log.size() >= options.logBytes()) {
            rollQuietly();
        }
    }

    private void requireOpen() throws IOException {
        if (isClosed) {
            throw new IOException("the store is closed");
        }
    }

    /** A failure concerns the next events, which report it. */
    private void rollQuietly() {
        try {
            roll();
        } catch (IOException e) {
            options.error().accept("no new log can be begun, so the current one grows: " + e.getMessage());
        }
    }

    /** Removes the lines whose id is known. */
    private void removeKnown(LogBatch batch, RecentIds ofBatch) {
        byte[] lines = batch.array();
        if (!EventIds.mayBeIn(lines, batch.from(), batch.to())) {
            return;
        }
        int kept = batch.from();
        int from = batch.from();
        for (int i = batch.from(); i < batch.to(); i++) {
            if (lines[i] != '\n') {
                continue;
            }
            if (!isKnown(lines, from, i, ofBatch)) {
                System.arraycopy(lines, from, lines, kept, i + 1 - from);
                kept += i + 1 - from;
            }
            from = i + 1;
        }
        batch.cutBack(kept);
    }

    private boolean isKnown(byte[] lines, int from, int to, RecentIds ofBatch) {
        if (!idOfLine.read(lines, from, to)) {
            return false;
        }
        long run = idOfLine.run();
        long event = idOfLine.number();
        if (ids.contains(run, event) || ofBatch.contains(run, event)) {
            return true;
        }
        ofBatch.add(run, event);
        return false;
    }

    /** Begins a new log if the current one has events, so that all events until now can be sealed. */
    void rollIfUsed() throws IOException {
        writing.lock();
        try {
            if (!isClosed && firstEvent != null) {
                roll();
            }
        } finally {
            writing.unlock();
        }
    }

    /** As above, if the events are old. */
    void rollIfOld() throws IOException {
        writing.lock();
        try {
            if (!isClosed
                    && firstEvent != null
                    && options.clock().instant().isAfter(firstEvent.plus(options.logAge()))) {
                roll();
            }
        } finally {
            writing.unlock();
        }
    }

    private void roll() throws IOException {
        if (log.isBroken()) {
            log.cutBack(); // otherwise, what is sent again would be there twice
        }
        disk.delete(folder.log(number + 1)); // one that could not be begun completely, so it has no events
        LogWriter begun = new LogWriter(folder.log(number + 1), disk);
        LogWriter complete = log;
        log = begun;
        number++;
        firstEvent = null;
        complete.close();
        rolled.run();
    }

    /** Returns the number of the current log, which is not complete yet. */
    long number() {
        writing.lock();
        try {
            return number;
        } finally {
            writing.unlock();
        }
    }

    /** Closes the log. An unused one is deleted. */
    @Override
    public void close() throws IOException {
        writing.lock();
        try {
            if (!isClosed) {
                isClosed = true;
                log.close();
                if (firstEvent == null && !log.isBroken()) {
                    disk.delete(log.path());
                }
            }
        } finally {
            writing.unlock();
        }
    }
}
