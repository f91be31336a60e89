package dev.graphema.segments.store;

import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.ReadErrors;
import dev.graphema.segments.SegmentCursor;
import dev.graphema.segments.file.SegmentException;
import dev.graphema.segments.log.Disk;
import dev.graphema.segments.log.LogLines;
import java.io.Closeable;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.channels.OverlappingFileLockException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.locks.ReentrantLock;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Writes a store. One process writes at a time, any number of others read with {@link StoreSource}. A background thread seals
 * complete logs, merges small segments and applies the {@linkplain StoreRules rules}. Thread-safe.
 *
 * <pre>{@code
 * try (Store store = Store.open(Path.of("store"), StoreOptions.usual(System.err::println))) {
 *     store.append(lines); // on the disk when this returns
 * }
 * }</pre>
 */
public final class Store implements Closeable {
    private static final int PIECE = 4 << 20;
    private static final long UPKEEP_EVERY_SECONDS = 10;
    private static final long LONGEST_UPKEEP_AT_CLOSE_SECONDS = 60;
    static final String LOCK = "lock";

    private final StoreFolder folder;
    private final FileChannel lock;
    private final StoreOptions options;
    private final Changes changes;
    private final Upkeep upkeep;
    private final Appending appending;

    /** Held while segments and the manifest are changed. */
    private final ReentrantLock changing = new ReentrantLock();

    private final ScheduledExecutorService background = Executors.newSingleThreadScheduledExecutor(task -> {
        Thread thread = new Thread(task, "graphema-store");
        thread.setDaemon(true);
        return thread;
    });
    private String lastProblem;

    private Store(StoreFolder folder, FileChannel lock, StoreOptions options, Disk disk) throws IOException {
        this.folder = folder;
        this.lock = lock;
        this.options = options;
        begin(disk);
        this.changes = new Changes(folder, disk, options);
        this.upkeep = new Upkeep(changes);
        removeLeftovers(disk);
        List<Long> logs = folder.logsFrom(changes.manifest().firstLog());
        long next = logs.isEmpty() ? changes.manifest().firstLog() : logs.get(logs.size() - 1) + 1;
        this.appending = new Appending(folder, disk, options, next, recentIds(logs), this::upkeepSoon);
        background.scheduleWithFixedDelay(this::upkeep, UPKEEP_EVERY_SECONDS, UPKEEP_EVERY_SECONDS, TimeUnit.SECONDS);
    }

    /**
     * Opens a store for writing; it is created if the folder does not exist or has no store.
     *
     * @throws IOException if another process writes it, it cannot be read or written, or its rules are invalid
     */
    public static Store open(Path folder, StoreOptions options) throws IOException {
        return open(folder, options, Disk.REAL);
    }

    static Store open(Path folder, StoreOptions options, Disk disk) throws IOException {
        Files.createDirectories(folder);
        StoreRules.of(folder);
        Path file = folder.resolve(LOCK);
        FileChannel channel = FileChannel.open(file, StandardOpenOption.CREATE, StandardOpenOption.WRITE);
        try {
            if (!isLocked(channel)) {
                throw new IOException("another process writes the store " + folder + " (it has locked " + file
                        + "): end it first, or use another folder; reading is possible meanwhile");
            }
            return created(new StoreFolder(folder), channel, options, disk);
        } catch (IOException | RuntimeException e) {
            channel.close();
            throw e;
        }
    }

    private static Store created(StoreFolder folder, FileChannel lock, StoreOptions options, Disk disk)
            throws IOException {
        try {
            return new Store(folder, lock, options, disk);
        } catch (IOException e) {
            throw new IOException(
                    "the store " + folder.path() + " cannot be opened for writing: " + ReadErrors.of(e), e);
        }
    }

    private static boolean isLocked(FileChannel channel) throws IOException {
        try {
            FileLock lock = channel.tryLock(); // until the channel is closed
            return lock != null;
        } catch (OverlappingFileLockException e) {
            return false; // this process has it
        }
    }

    private void begin(Disk disk) throws IOException {
        if (Files.exists(folder.path().resolve(ManifestFile.NAME))) {
            return;
        }
        List<Path> files = folder.files();
        if (!files.isEmpty()) {
            throw new IOException("the folder " + folder.path() + " has files of a store, such as "
                    + files.get(0).getFileName() + ", but no " + ManifestFile.NAME
                    + ": restore it from a backup, or use another folder");
        }
        ManifestFile.write(folder.path(), Manifest.EMPTY, disk);
    }

    /** Deletes segments that an interrupted process was about to add. */
    private void removeLeftovers(Disk disk) throws IOException {
        Manifest manifest = changes.manifest();
        Set<String> needed = Stream.concat(
                        manifest.segments().stream().map(Manifest.Entry::file),
                        manifest.replaced().stream().map(Manifest.Replaced::file))
                .collect(Collectors.toSet());
        for (Path file : folder.files()) {
            if (StoreFolder.isSegment(file)
                    && !needed.contains(file.getFileName().toString())) {
                disk.delete(file);
            }
        }
    }

    /** Returns the ids of the newest events, so that they are known if they come again. */
    private RecentIds recentIds(List<Long> logs) throws IOException {
        RecentIds ids = new RecentIds();
        EventIds id = new EventIds();
        long lines = 0;
        List<Manifest.Entry> newestFirst = changes.manifest().segments().stream()
                .sorted(Comparator.comparing(Manifest.Entry::file).reversed())
                .toList();
        int count = 0;
        while (count < newestFirst.size() && lines < 2L * RecentIds.MOST_ENTRIES) {
            lines += newestFirst.get(count++).lines();
        }
        for (int i = count - 1; i >= 0; i--) {
            addIds(newestFirst.get(i), id, ids);
        }
        for (long log : logs) {
            try (LogLines in = new LogLines(folder.log(log), 0, damage -> {})) { // sealing reports it
                addIds(in.readAllBytes(), id, ids);
            }
        }
        return ids;
    }

    private void addIds(Manifest.Entry segment, EventIds id, RecentIds ids) throws IOException {
        try (SegmentCursor cursor = new SegmentCursor(changes.segments().path(segment))) {
            while (cursor.mayHaveMember(EventIds.MEMBER) && cursor.next()) {
                if (id.read(cursor.line(), 0, cursor.line().length)) {
                    ids.add(id.run(), id.number());
                }
            }
        } catch (SegmentException e) {
            options.error().accept("the ids of " + segment.file() + " are not known: " + e.getMessage());
        }
    }

    private static void addIds(byte[] lines, EventIds id, RecentIds ids) {
        int from = 0;
        for (int i = 0; i < lines.length; i++) {
            if (lines[i] == '\n') {
                if (id.read(lines, from, i)) {
                    ids.add(id.run(), id.number());
                }
                from = i + 1;
            }
        }
    }

    /**
     * Appends lines, and returns when they survive a power failure; questions find them from then on. Lines in Graphema JSON with
     * an {@code id} that was stored recently are left out, so that sending them again is harmless. Lines of more than some
     * megabytes together are stored one part after the other.
     *
     * @param lines lines in UTF-8, each with its line feed, which the last one may lack
     * @throws IOException if they could not be stored; of many megabytes, the first lines may be stored
     */
    public void append(byte[] lines) throws IOException {
        byte[] ended = lines;
        if (lines.length > 0 && lines[lines.length - 1] != '\n') {
            ended = Arrays.copyOf(lines, lines.length + 1);
            ended[lines.length] = '\n';
        }
        int from = 0;
        while (from < ended.length) {
            int to = endOfPiece(ended, from);
            appending.append(ended, from, to - from);
            from = to;
        }
    }

    /** Returns the end of a line. */
    private static int endOfPiece(byte[] lines, int from) throws IOException {
        int to = Math.min(lines.length, from + PIECE);
        while (to > from && lines[to - 1] != '\n') {
            to--;
        }
        if (to == from) {
            to = Math.min(lines.length, from + PIECE);
            while (lines[to - 1] != '\n') {
                to++;
            }
        }
        if (to - from > LineShape.MAX_LINE) {
            throw new IOException("a line has more than " + LineShape.MAX_LINE + " bytes: shorten it");
        }
        return to;
    }

    /** Returns the store as a source. */
    public StoreSource source() throws IOException {
        return StoreSource.at(folder.path());
    }

    /**
     * Seals all events now, merges small segments, and applies the rules.
     *
     * @throws IOException if that failed; nothing is lost then
     */
    public void tidy() throws IOException {
        changing.lock();
        try {
            appending.rollIfUsed();
            upkeepNow();
        } catch (IOException e) {
            throw new IOException(
                    "the store " + folder.path() + " could not be tidied, nothing of it is lost: " + e.getMessage(), e);
        } finally {
            changing.unlock();
        }
    }

    /**
     * Deletes all events that contain a text, such as the name of a person or its pseudonym, and verifies that it is in no file of
     * the store any more. Questions that began before may fail.
     *
     * @param text the text, of at least {@value Forgetting#SHORTEST} characters, in upper and lower case as in the events
     * @return the number of deleted lines
     * @throws IOException if that failed, or if the text is still there
     */
    public long forget(String text) throws IOException {
        Forgetting forgetting = new Forgetting(changes, text);
        return allSealed(() -> {
            long lines = forgetting.delete();
            changes.removeReplaced(Instant.MAX);
            forgetting.verify();
            return lines;
        });
    }

    /** Returns how many lines a call of {@link #forget} would delete. */
    public long containing(String text) throws IOException {
        return allSealed(new Forgetting(changes, text)::count);
    }

    @FunctionalInterface
    private interface Counting {
        long count() throws IOException;
    }

    /** Counts something when all events are in segments. */
    private long allSealed(Counting counting) throws IOException {
        changing.lock();
        try {
            appending.rollIfUsed();
            upkeep.seal(appending.number(), StoreRules.of(folder.path()));
            return counting.count();
        } finally {
            changing.unlock();
        }
    }

    /**
     * What is in segments.
     *
     * @param segments the number of segments
     * @param lines the number of their lines
     * @param bytes their size
     * @param deletedLines the number of lines that were deleted since the store was opened
     */
    public record Contents(int segments, long lines, long bytes, long deletedLines) {}

    /** Returns what is in segments now. */
    public Contents contents() {
        changing.lock();
        try {
            List<Manifest.Entry> segments = changes.manifest().segments();
            return new Contents(
                    segments.size(),
                    segments.stream().mapToLong(Manifest.Entry::lines).sum(),
                    segments.stream().mapToLong(Manifest.Entry::bytes).sum(),
                    changes.deletedLines());
        } finally {
            changing.unlock();
        }
    }

    private void upkeepSoon() {
        try {
            background.execute(this::upkeep);
        } catch (RejectedExecutionException e) {
            // The store is being closed: the log is sealed when it is opened next.
        }
    }

    /** What fails is reported once and tried again. */
    private void upkeep() {
        changing.lock();
        try {
            appending.rollIfOld();
            upkeepNow();
            lastProblem = null;
        } catch (IOException | RuntimeException | OutOfMemoryError e) {
            String problem =
                    "the store " + folder.path() + " could not be tidied, which is tried again: " + e.getMessage();
            if (!problem.equals(lastProblem)) {
                options.error().accept(problem);
            }
            lastProblem = problem;
        } finally {
            changing.unlock();
        }
    }

    private void upkeepNow() throws IOException {
        StoreRules rules = StoreRules.of(folder.path());
        upkeep.seal(appending.number(), rules);
        new Retention(changes, rules).apply();
        upkeep.merge(rules, appending::number);
        changes.removeReplaced(options.clock().instant().minus(options.replacedAge()));
    }

    /** Closes the store. Events that are not in segments yet stay in the log. */
    @Override
    public void close() throws IOException {
        background.shutdown();
        try {
            background.awaitTermination(LONGEST_UPKEEP_AT_CLOSE_SECONDS, TimeUnit.SECONDS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        try (lock) {
            appending.close();
        }
    }
}
