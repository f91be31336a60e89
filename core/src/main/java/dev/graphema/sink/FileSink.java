package dev.graphema.sink;

import static java.nio.file.StandardOpenOption.CREATE;
import static java.nio.file.StandardOpenOption.READ;
import static java.nio.file.StandardOpenOption.WRITE;

import dev.graphema.event.Event;
import dev.graphema.format.Format;
import dev.graphema.format.Utf8Buffer;
import dev.graphema.spool.Claims;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileAttribute;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;

/**
 * Appends to a file, which it makes with its folders when they are missing. A batch is gathered in memory and written at
 * once. The file is put aside when it grows too large or an hour or day is over, also while nothing is written; what is put
 * aside is compressed and in the end deleted, as {@link FileOptions} say. A restart goes on with the file that is there.
 *
 * <p>When a write fails, as on a full disk, what was not written is kept and tried again with the next one, up to 4 MiB;
 * beyond that further events are refused with the error.
 *
 * <p>A file that another process, or another sink, is writing is left to it: this one then writes to a second file beside
 * it, {@code deck.2.jsonl}, and says so.
 */
public final class FileSink implements Sink {
    private static final int USUAL_BATCH = 96 * 1024;
    private static final int MOST_KEPT = 4 * 1024 * 1024;
    private static final int MOST_PROCESSES = 100;
    private static final long LONGEST_TIDYING_AT_CLOSE_SECONDS = 5;

    private final FileOptions options;
    private final Format format;
    private final FileNames names;
    private final OldFiles oldFiles;
    private final InstantSource clock;
    private final Consumer<String> trouble;
    private final Utf8Buffer buffer = new Utf8Buffer(USUAL_BATCH);
    private final ExecutorService tidying = Executors.newSingleThreadExecutor(FileSink::tidyingThread);
    private final AtomicBoolean tidyWaits = new AtomicBoolean();

    private FileChannel channel;
    private Path file;
    private long size;
    private LocalDate day;
    private Instant periodEnd;

    private FileSink(FileOptions options, Format format, InstantSource clock, Consumer<String> trouble) {
        this.options = options;
        this.format = Objects.requireNonNull(format, "format");
        this.names = new FileNames(options.path());
        this.oldFiles = new OldFiles(names, options, tidying::isShutdown);
        this.clock = clock;
        this.trouble = trouble;
    }

    /**
     * Opens the file for appending. A last line without an end, which a killed process may leave, is ended first, so that
     * it cannot swallow the next one.
     *
     * @param trouble told in one line about what goes wrong beside the writing itself
     * @throws IOException when the file or its folders cannot be made or written
     */
    public static FileSink open(FileOptions options, Format format, Consumer<String> trouble) throws IOException {
        return open(options, format, InstantSource.system(), trouble);
    }

    static FileSink open(FileOptions options, Format format, InstantSource clock, Consumer<String> trouble)
            throws IOException {
        FileSink sink = new FileSink(options, format, clock, trouble);
        try {
            Files.createDirectories(sink.names.folder());
            sink.openCurrent();
            sink.tidy();
            return sink;
        } catch (IOException | RuntimeException e) {
            sink.tidying.shutdown();
            throw e;
        }
    }

    @Override
    public void write(Event event) throws IOException {
        if (buffer.length() >= MOST_KEPT) {
            flush();
        }
        format.write(event, buffer);
    }

    @Override
    public void flush() throws IOException {
        if (size > 0 && size + buffer.length() > options.rotateAt() || periodIsOver()) {
            rotate();
        }
        ByteBuffer bytes = buffer.view();
        try {
            while (bytes.hasRemaining()) {
                channel.write(bytes);
            }
        } finally {
            size += bytes.position();
            buffer.dropFirst(bytes.position());
        }
        if (options.sync()) {
            channel.force(false);
        }
    }

    @Override
    public void idle() throws IOException {
        if (periodIsOver()) {
            rotate();
        }
    }

    @Override
    public void close() throws IOException {
        channel.close(); // and with it the lock
        Claims.release(file);
        tidying.shutdown();
        try {
            // What is not done by then is done at the next start.
            tidying.awaitTermination(LONGEST_TIDYING_AT_CLOSE_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    /** The file that is being written. */
    Path file() {
        return file;
    }

    @Override
    public String toString() {
        return "file " + file;
    }

    private boolean periodIsOver() {
        return !clock.instant().isBefore(periodEnd);
    }

    /** Puts the file aside and begins a new one. When that fails, writing goes on in the old one. */
    private void rotate() throws IOException {
        if (size == 0) {
            replaceEmpty();
            return;
        }
        try {
            Files.move(file, names.aside(file, clock.instant()));
        } catch (IOException e) {
            trouble.accept(file + " cannot be put aside and goes on growing: " + e);
            beginPeriod(clock.instant());
            return;
        }
        FileChannel old = channel;
        Claims.release(file); // its name is free; the lock goes with the file that was moved
        openCurrent();
        old.close();
        tidy();
    }

    /** There is nothing to put aside: the file serves the next period, too, unless that has a name of its own. */
    private void replaceEmpty() throws IOException {
        LocalDate dayBefore = day;
        beginPeriod(clock.instant());
        if (!names.current(day, 1).equals(names.current(dayBefore, 1))) {
            FileChannel old = channel;
            Path empty = file;
            openCurrent();
            old.close();
            Claims.release(empty);
            Files.deleteIfExists(empty);
        }
    }

    private void openCurrent() throws IOException {
        Instant now = clock.instant();
        beginPeriod(now);
        for (int number = 1; number <= MOST_PROCESSES; number++) {
            Path candidate = names.current(day, number);
            if (!Claims.claim(candidate)) {
                continue; // another sink of this process has it
            }
            FileChannel opened = null;
            try {
                opened = create(candidate);
                if (opened.tryLock() != null) {
                    channel = opened;
                    file = candidate;
                    size = endLastLine(opened);
                    if (number > 1) {
                        trouble.accept(names.current(day, 1)
                                + " is being written by another process or sink; this one writes to " + candidate
                                + ". Give each a path of its own");
                    }
                    return;
                }
                opened.close();
                Claims.release(candidate);
            } catch (IOException | RuntimeException e) {
                if (opened != null) {
                    opened.close();
                }
                Claims.release(candidate);
                throw e;
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

    private FileChannel create(Path path) throws IOException {
        boolean posix = FileSystems.getDefault().supportedFileAttributeViews().contains("posix");
        FileAttribute<?>[] attributes = posix
                ? new FileAttribute<?>[] {
                    PosixFilePermissions.asFileAttribute(PosixFilePermissions.fromString(options.permissions()))
                }
                : new FileAttribute<?>[0];
        return FileChannel.open(path, Set.of(CREATE, READ, WRITE), attributes);
    }

    /** Goes to the end of the file, and ends its last line. */
    private static long endLastLine(FileChannel opened) throws IOException {
        long end = opened.size();
        opened.position(end);
        ByteBuffer last = ByteBuffer.allocate(1);
        if (end > 0 && opened.read(last, end - 1) == 1 && last.get(0) != '\n') {
            opened.write(ByteBuffer.wrap(new byte[] {'\n'}));
            return end + 1;
        }
        return end;
    }

    /** One task that waits does for all files that were put aside until it begins. */
    private void tidy() {
        if (tidyWaits.getAndSet(true)) {
            return;
        }
        tidying.execute(() -> {
            tidyWaits.set(false);
            try {
                oldFiles.tidy(clock.instant());
            } catch (IOException | RuntimeException e) {
                trouble.accept("old files of " + options.path() + " cannot be compressed or deleted: " + e);
            }
        });
    }

    private static Thread tidyingThread(Runnable task) {
        Thread thread = new Thread(task, "graphema-old-files");
        thread.setDaemon(true);
        return thread;
    }
}
