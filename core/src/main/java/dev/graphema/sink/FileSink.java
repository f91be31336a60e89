package dev.graphema.sink;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.event.Event;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.format.Format;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Objects;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;

/**
 * Appends to a file, which it makes with its folders when they are missing. A batch is gathered in memory and written at
 * once. The file is archived when it grows too large or an hour or day is over, also while nothing is written; archived files
 * are compressed and in the end deleted, as {@link FileOptions} say. A restart continues the file that is there.
 *
 * <p>When a write fails, as on a full disk, what was not written is kept and tried again with the next one, up to 4 MiB;
 * beyond that further events are refused with the error.
 *
 * <p>A file that another process, or another sink, is writing is left to it: this one then writes to a second file beside
 * it, {@code deck.2.jsonl}, and reports that.
 *
 * <p>About once a second the sink checks that its file is still in place. When another process has removed it, the sink makes
 * a new one and writes again what it had written since the check before, which it can still read. When another process has
 * renamed the file, the sink makes a new one.
 */
public final class FileSink implements Sink {
    private static final int USUAL_BATCH = 96 * 1024;
    private static final int MOST_KEPT = 4 * 1024 * 1024;
    private static final int MOST_PROCESSES = 100;
    private static final long LONGEST_TIDYING_AT_CLOSE_SECONDS = 5;
    private static final Duration CHECK_EVERY = Duration.ofSeconds(1);
    private static final Duration ROTATE_AGAIN_AFTER = Duration.ofSeconds(10);

    private final FileOptions options;
    private final FileNames names;
    private final OldFiles oldFiles;
    private final InstantSource clock;
    private final Consumer<String> trouble;
    private final GatheredEvents gathered;
    private final ExecutorService tidying = Executors.newSingleThreadExecutor(FileSink::tidyingThread);
    private final AtomicBoolean tidyWaits = new AtomicBoolean();

    /** Null after a new file could not be opened; then the next write tries again. */
    private WrittenFile file;

    /** A file that another process has removed, and whose last bytes are still to be written again; usually null. */
    private WrittenFile removed;

    private long sizeAtCheckOfRemoved;
    private LocalDate day;
    private Instant periodEnd;
    private Instant latest = Instant.MIN;
    private Instant checkedAt;
    private long sizeAtCheck;
    private Instant noRotationUntil = Instant.MIN;

    private FileSink(FileOptions options, Format format, InstantSource clock, Consumer<String> trouble) {
        this.options = options;
        this.gathered = new GatheredEvents(Objects.requireNonNull(format, "format"), USUAL_BATCH);
        this.names = new FileNames(options.path());
        this.oldFiles = new OldFiles(names, options, tidying::isShutdown);
        this.clock = clock;
        this.trouble = trouble;
    }

    /**
     * Opens the file for appending. A last line without an end, which a killed process may leave, is ended first, so that
     * it cannot swallow the next one.
     *
     * @param trouble receives one line about what goes wrong beside the writing itself
     * @throws IOException when the file or its folders cannot be made or written
     */
    public static FileSink open(FileOptions options, Format format, Consumer<String> trouble) throws IOException {
        return open(options, format, InstantSource.system(), trouble);
    }

    static FileSink open(FileOptions options, Format format, InstantSource clock, Consumer<String> trouble)
            throws IOException {
        FileSink sink = new FileSink(options, format, clock, trouble);
        try {
            sink.latest = sink.lastWritten();
            sink.openCurrent(true);
            sink.tidy();
            return sink;
        } catch (IOException | RuntimeException e) {
            sink.tidying.shutdown();
            throw e;
        }
    }

    @Override
    public void write(Event event) throws IOException {
        if (gathered.length() >= MOST_KEPT) {
            flush();
        }
        gathered.add(event);
    }

    @Override
    public void flush() throws IOException {
        Instant now = clock.instant();
        ensureInPlace(now);
        rotateByClock(now);
        while (!gathered.isEmpty()) {
            boolean mayRotate = !now.isBefore(noRotationUntil);
            long room = mayRotate ? options.rotateAt() - file.size() : Long.MAX_VALUE;
            int length = gathered.fitting(room, file.size() == 0);
            if (length == 0) {
                rotate(now);
            } else {
                write(length);
            }
        }
        if (options.sync()) {
            file.force();
        }
    }

    private void write(int length) throws IOException {
        ByteBuffer bytes = gathered.first(length);
        try {
            file.write(bytes);
        } finally {
            gathered.dropFirst(bytes.position());
        }
    }

    @Override
    public long discard() {
        return gathered.clear();
    }

    @Override
    public void idle() throws IOException {
        Instant now = clock.instant();
        ensureInPlace(now);
        rotateByClock(now);
    }

    @Override
    public void close() throws IOException {
        try {
            if (file != null) {
                file.close();
            }
        } finally {
            tidying.shutdown();
            try {
                // What is not done by then is done at the next start.
                tidying.awaitTermination(LONGEST_TIDYING_AT_CLOSE_SECONDS, TimeUnit.SECONDS);
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }

    /** The file that is being written. */
    Path file() {
        return file.path();
    }

    @Override
    public String toString() {
        return "file " + (file == null ? options.path() : file.path());
    }

    /** Opens a file when there is none, and makes it again when somebody has taken it away. */
    private void ensureInPlace(Instant now) throws IOException {
        if (file != null && !file.isOpen()) {
            reopen();
        }
        boolean isDue = file != null && Duration.between(checkedAt, now).abs().compareTo(CHECK_EVERY) >= 0;
        if (isDue && !file.isInPlace()) {
            missing();
        } else if (isDue) {
            checked(now);
        }
        if (file == null) {
            openCurrent(true);
        }
        if (removed != null) {
            restore();
        }
    }

    private void checked(Instant now) {
        checkedAt = now;
        sizeAtCheck = file.size();
    }

    /** An interrupt of this thread has closed the channel, perhaps after a part of a write that nobody has counted. */
    private void reopen() throws IOException {
        long known = file.size();
        Path path = file.path();
        file.close();
        file = null;
        long uncounted = Files.exists(path) ? Files.size(path) - known : 0;
        if (uncounted > 0 && uncounted <= gathered.length()) {
            gathered.dropFirst((int) uncounted);
        }
        openCurrent(false);
    }

    private void missing() throws IOException {
        WrittenFile gone = file;
        boolean isRenamed = gone.isRenamed(); // before anything changes, since it may fail
        sizeAtCheckOfRemoved = sizeAtCheck;
        file = null;
        gone.giveUpName();
        if (isRenamed) {
            gone.close();
            trouble.accept(gone.path() + " was renamed by another process: a new file is written");
        } else {
            removed = gone;
        }
    }

    /** Writes again what went into the removed file since it was last seen in place. */
    private void restore() throws IOException {
        WrittenFile gone = removed;
        gone.copyTo(file, sizeAtCheckOfRemoved);
        removed = null;
        long restored = gone.size() - sizeAtCheckOfRemoved;
        gone.close();
        checked(clock.instant());
        trouble.accept(
                gone.path() + " was removed by another process: a new file is written, which begins with the last "
                        + restored + " bytes of the old one");
    }

    /** When an earlier process wrote last to the file; the earliest of all moments when none did. */
    private Instant lastWritten() throws IOException {
        Path path = names.current(clock.instant().atZone(options.zone()).toLocalDate(), 1);
        return Files.exists(path) ? Files.getLastModifiedTime(path).toInstant() : Instant.MIN;
    }

    /**
     * Begins a new file when a period is over, and when the clock was set back: else the file would not be in the order of
     * time, on which readers rely, and a period that a wrong clock began might not end for years.
     */
    private void rotateByClock(Instant now) throws IOException {
        boolean isSetBack = FileNames.isSetBack(latest, now);
        latest = isSetBack || now.isAfter(latest) ? now : latest;
        if (isSetBack) {
            noRotationUntil = Instant.MIN;
        }
        if (isSetBack || !now.isBefore(periodEnd)) {
            rotate(now);
        }
    }

    /** Archives the file and begins a new one. When that fails, writing continues in the old one for a while. */
    private void rotate(Instant now) throws IOException {
        if (file.size() == 0) {
            replaceEmpty(now);
            return;
        }
        try {
            Files.move(file.path(), names.aside(file.path(), now));
        } catch (IOException e) {
            trouble.accept(file.path() + " cannot be archived and continues to grow: " + e);
            noRotationUntil = now.plus(ROTATE_AGAIN_AFTER);
            beginPeriod(now);
            return;
        }
        WrittenFile archived = file;
        file = null;
        archived.close();
        openCurrent(true);
        tidy();
    }

    /** There is nothing to archive: the file serves the next period, too, unless that has a name of its own. */
    private void replaceEmpty(Instant now) throws IOException {
        LocalDate dayBefore = day;
        beginPeriod(now);
        if (!names.current(day, 1).equals(names.current(dayBefore, 1))) {
            Path empty = file.path();
            file.close();
            file = null;
            openCurrent(true);
            Files.deleteIfExists(empty);
        }
    }

    private void openCurrent(boolean endsLastLine) throws IOException {
        Instant now = clock.instant();
        beginPeriod(now);
        for (int number = 1; number <= MOST_PROCESSES; number++) {
            file = WrittenFile.open(names.current(day, number), options.permissions(), endsLastLine);
            if (file != null) {
                checked(now);
                if (number > 1) {
                    trouble.accept(names.current(day, 1)
                            + " is being written by another process or sink; this one writes to " + file.path()
                            + ". Give each a path of its own");
                }
                return;
            }
        }
        throw new IOException(names.current(day, 1) + " and " + (MOST_PROCESSES - 1)
                + " files beside it are being written by other processes");
    }

    private void beginPeriod(Instant now) {
        if (options.rotateEvery() == FileOptions.Every.NEVER && !names.hasDate()) {
            day = LocalDate.EPOCH;
            periodEnd = Instant.MAX;
            return;
        }
        day = now.atZone(options.zone()).toLocalDate();
        // Counted on the zone's own calendar, so that days of 23 and 25 hours come out right.
        Instant dayEnd = day.plusDays(1).atStartOfDay(options.zone()).toInstant();
        Instant hourEnd = now.truncatedTo(ChronoUnit.HOURS).plus(1, ChronoUnit.HOURS);
        periodEnd = switch (options.rotateEvery()) {
            case HOUR -> hourEnd.isBefore(dayEnd) ? hourEnd : dayEnd;
            case DAY -> dayEnd;
            case NEVER -> dayEnd;
        };
    }

    /** One task that waits does for all files that were archived until it begins. */
    private void tidy() {
        if (tidyWaits.getAndSet(true)) {
            return;
        }
        tidying.execute(() -> FailurePolicy.inBackground(this::tidyNow, this::tidyingFailed));
    }

    private void tidyNow() {
        tidyWaits.set(false);
        try {
            oldFiles.tidy(clock.instant());
        } catch (IOException e) {
            tidyingFailed(e);
        }
    }

    private void tidyingFailed(Throwable problem) {
        trouble.accept("old files of " + options.path() + " cannot be compressed or deleted: " + problem);
    }

    private static Thread tidyingThread(Runnable task) {
        return BackgroundThreads.daemon("graphema-old-files", task);
    }
}
