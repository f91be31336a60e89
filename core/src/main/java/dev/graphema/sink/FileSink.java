package dev.graphema.sink;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.event.Event;
import dev.graphema.event.EventRecord;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.format.Format;
import dev.graphema.option.Selection;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.stream.Stream;

/**
 * Appends to a file, and creates it and its folders if they are missing. Batches are gathered in memory and written at
 * once. The file is archived when it reaches a size or a period ends, also while no events are written; archived files
 * are compressed and finally deleted, see {@link FileOptions}. After a restart, the existing file is continued.
 *
 * <p>If a write fails, for example on a full disk, up to 4 MiB are kept and written again; further events are rejected
 * with the error.
 *
 * <p>If another process or sink is writing the file, this sink writes to a second file, {@code deck.2.jsonl}, and
 * reports that.
 *
 * <p>About once a second, the sink checks that its file still exists. If another process has removed it, the sink
 * creates a new one and writes again what it has written since the previous check. If another process has renamed it,
 * the sink creates a new one.
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
    private final Consumer<String> error;
    private final GatheredEvents gathered;
    private final ExecutorService tidying = Executors.newSingleThreadExecutor(FileSink::tidyingThread);
    private final AtomicBoolean tidyWaits = new AtomicBoolean();

    /** Null if a new file could not be opened; the next write tries again. */
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

    private FileSink(FileOptions options, Format format, InstantSource clock, Consumer<String> error)
            throws IOException {
        this.options = options;
        this.gathered = new GatheredEvents(Objects.requireNonNull(format, "format"), USUAL_BATCH);
        Selection<ArchiveForm> forms = Selection.of(ArchiveForm.class, List.of());
        ArchiveForm form = archiveForm(options.compress(), forms);
        this.names = new FileNames(
                options.path(),
                Stream.concat(Stream.of(FileNames.GZIP), forms.all().stream().map(ArchiveForm::extension))
                        .toList());
        this.oldFiles = new OldFiles(names, options, form, clock, tidying::isShutdown);
        this.clock = clock;
        this.error = error;
    }

    /** Returns null for gzip, and for none. */
    private static ArchiveForm archiveForm(FileOptions.Compress compress, Selection<ArchiveForm> forms)
            throws IOException {
        if (compress != FileOptions.Compress.SEGMENT) {
            return null;
        }
        ArchiveForm form = forms.named(compress.text());
        if (form == null) {
            throw new IOException("\"compress: " + compress.text()
                    + "\" requires graphema-segments: add it as a dependency, or use \"compress: true\"");
        }
        return form;
    }

    /**
     * Opens the file. An incomplete last line of a killed process is ended first.
     *
     * @param error receives errors that do not concern writing, one line each
     * @throws IOException if the file or its folders cannot be created or written
     */
    public static FileSink open(FileOptions options, Format format, Consumer<String> error) throws IOException {
        return open(options, format, InstantSource.system(), error);
    }

    static FileSink open(FileOptions options, Format format, InstantSource clock, Consumer<String> error)
            throws IOException {
        FileSink sink = new FileSink(options, format, clock, error);
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
    public void write(EventRecord event) throws IOException {
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

    /** Returns the current file. */
    Path file() {
        return file.path();
    }

    @Override
    public String toString() {
        return "file " + (file == null ? options.path() : file.path());
    }

    /** Opens a file if there is none, and creates it again if it was removed or renamed. */
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

    /** An interrupt has closed the channel, perhaps after an uncounted part of a write. */
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
            error.accept(gone.path() + " was renamed by another process: a new file is written");
        } else {
            removed = gone;
        }
    }

    /** Writes again what was written to the removed file since the last check. */
    private void restore() throws IOException {
        WrittenFile gone = removed;
        gone.copyTo(file, sizeAtCheckOfRemoved);
        removed = null;
        long restored = gone.size() - sizeAtCheckOfRemoved;
        gone.close();
        checked(clock.instant());
        error.accept(gone.path() + " was removed by another process: a new file is written, which begins with the last "
                + restored + " bytes of the old one");
    }

    /** Returns when an earlier process last wrote to the file; the earliest possible time if none did. */
    private Instant lastWritten() throws IOException {
        Path path = names.current(clock.instant().atZone(options.zone()).toLocalDate(), 1);
        return Files.exists(path) ? Files.getLastModifiedTime(path).toInstant() : Instant.MIN;
    }

    /**
     * Starts a new file when a period ends, and when the clock was set back. Otherwise, the file would not be in the
     * order of time, on which readers rely, and a period that began with a wrong clock might not end for years.
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

    /** Archives the file and starts a new one. If that fails, the file continues to grow for some time. */
    private void rotate(Instant now) throws IOException {
        if (file.size() == 0) {
            replaceEmpty(now);
            return;
        }
        try {
            Files.move(file.path(), names.aside(file.path(), now));
        } catch (IOException e) {
            error.accept(file.path() + " cannot be archived and continues to grow: " + e);
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

    /** There is nothing to archive: the file is also used for the next period, unless that has a different name. */
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
                    error.accept(names.current(day, 1)
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

    /** A single waiting task is sufficient for all files that are archived before it starts. */
    private void tidy() {
        if (tidyWaits.getAndSet(true)) {
            return;
        }
        tidying.execute(() -> FailurePolicy.inBackground(this::tidyNow, this::tidyingFailed));
    }

    private void tidyNow() {
        tidyWaits.set(false);
        try {
            oldFiles.tidy();
        } catch (IOException e) {
            tidyingFailed(e);
        }
    }

    private void tidyingFailed(Throwable problem) {
        error.accept("old files of " + options.path() + " cannot be compressed or deleted: " + problem);
    }

    private static Thread tidyingThread(Runnable task) {
        return BackgroundThreads.daemon("graphema-old-files", task);
    }
}
