package dev.graphema.collector.follow;

import dev.graphema.collector.ingest.FilePlace;
import dev.graphema.collector.ingest.Intake;
import dev.graphema.collector.ingest.Origin;
import dev.graphema.collector.input.FollowedPath;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import java.io.Closeable;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.nio.file.attribute.BasicFileAttributes;
import java.security.SecureRandom;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.stream.Stream;

/**
 * Follows files and stores their lines. Where it is in a file is a part of the events, and in {@link Places}; after a sudden end, the
 * later one of both counts. A file is identified by its key in the file system and its first bytes, so that a renamed file is read
 * to its end, and its successor from the beginning.
 */
public final class FollowedFiles implements Closeable {
    private static final String RENAMED = "[.-][0-9][0-9T_.:-]*";
    private static final Pattern LOG = Pattern.compile(".+\\.(jsonl|ndjson|log)(" + RENAMED + ")?");
    private static final long EVERY_MILLIS = 200;

    /** A file that was renamed or deleted, and does not grow any more, is closed after this time. */
    private static final long ENDED_NANOS = TimeUnit.SECONDS.toNanos(10);

    private static final long END_MILLIS = 5_000;
    private static final int LOG_BYTES = 8;

    private final List<FollowedPath> paths;
    private final String environment;
    private final Intake intake;
    private final Consumer<String> problems;
    private final Places places;
    private final Map<String, FollowedFile> open = new LinkedHashMap<>();
    private final Map<String, String> reported = new LinkedHashMap<>();
    private final Thread thread = new Thread(this::run, "graphema-follow");
    private volatile boolean isClosed;

    private FollowedFiles(
            List<FollowedPath> paths, String environment, Intake intake, Places places, Consumer<String> problems) {
        this.paths = paths;
        this.environment = environment;
        this.intake = intake;
        this.places = places;
        this.problems = problems;
    }

    /**
     * Begins to follow.
     *
     * @param environment the environment of files that have none; null for unknown
     * @param store the folder of the store
     * @param source its events
     * @param problems receives what the operator should know
     * @throws IOException if it cannot be found out up to where files are stored
     */
    public static FollowedFiles start(
            List<FollowedPath> paths,
            String environment,
            Intake intake,
            Path store,
            EventSource source,
            Consumer<String> problems)
            throws IOException {
        FollowedFiles files = new FollowedFiles(paths, environment, intake, new Places(store), problems);
        if (!paths.isEmpty()) {
            for (Place each : List.copyOf(files.places.byLog().values())) {
                files.places.byLog().put(each.log(), each.at(stored(each, source)));
            }
            for (FollowedPath each : paths) {
                files.passOverOld(each.path());
            }
            files.reportMissing();
            files.thread.setDaemon(true);
            files.thread.start();
        }
        return files;
    }

    /** Returns up to where a file is stored: what was appended before a sudden end can be behind its place. */
    private static long stored(Place place, EventSource source) throws IOException {
        long[] position = {place.position()};
        Question<?> behind = Question.where(
                        "collector.log = \"" + place.log() + "\" and collector.position > " + place.position())
                .newest(1);
        QueryExecutor.read(behind.selection(), source, progress -> true, event -> {
            position[0] = Math.max(position[0], position(event));
            return true;
        });
        return position[0];
    }

    private static long position(Event event) {
        return event.fields().get("collector.position") instanceof Number number ? number.longValue() : 0;
    }

    private void run() {
        while (!isClosed) {
            boolean isBusy = false;
            for (FollowedPath each : paths) {
                isBusy |= follow(each);
            }
            isBusy |= readEnded();
            try {
                TimeUnit.MILLISECONDS.sleep(isBusy ? 0 : EVERY_MILLIS);
            } catch (InterruptedException e) {
                return;
            }
        }
    }

    /** Returns whether there may be more at once. */
    private boolean follow(FollowedPath path) {
        boolean isBusy = false;
        try {
            for (Path each : files(path.path())) {
                try {
                    isBusy |= read(opened(each, path), path, false);
                } catch (NoSuchFileException e) {
                    // it was renamed or deleted at this moment
                } catch (IOException | RuntimeException | OutOfMemoryError e) {
                    report(each.toString(), each + " cannot be followed: " + e);
                }
            }
        } catch (IOException | RuntimeException | OutOfMemoryError e) {
            report(path.path().toString(), path.path() + " cannot be followed: " + e);
        }
        return isBusy;
    }

    /** Returns the files of a path: the logs below a folder, or a file and what it was renamed to. */
    private static List<Path> files(Path path) throws IOException {
        if (!Files.isDirectory(path)) {
            List<Path> files = renamed(path);
            if (Files.isRegularFile(path)) {
                files.add(path);
            }
            return files;
        }
        try (Stream<Path> below = Files.walk(path)) {
            return below.filter(
                            file -> LOG.matcher(file.getFileName().toString()).matches())
                    .filter(Files::isRegularFile)
                    .sorted()
                    .toList();
        }
    }

    /** Returns the files next to a file with its name and a number behind it, which are not compressed. */
    private static List<Path> renamed(Path path) throws IOException {
        Path folder = path.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            return new ArrayList<>();
        }
        Pattern name = Pattern.compile(Pattern.quote(path.getFileName().toString()) + RENAMED);
        try (Stream<Path> files = Files.list(folder)) {
            return new ArrayList<>(files.filter(
                            file -> name.matcher(file.getFileName().toString()).matches())
                    .filter(Files::isRegularFile)
                    .sorted()
                    .toList());
        }
    }

    /** Passes over the files that were renamed before a file was followed for the first time. */
    private void passOverOld(Path path) throws IOException {
        boolean isNew = places.byLog().values().stream()
                .noneMatch(each -> Path.of(each.file()).startsWith(path));
        if (!isNew || Files.isDirectory(path)) {
            return;
        }
        for (Path each : renamed(path)) {
            Place place = FollowedFile.identified(each, key(each), randomLog());
            places.put(place.at(Files.size(each)).ended());
        }
    }

    private FollowedFile opened(Path file, FollowedPath path) throws IOException {
        String key = key(file);
        FollowedFile known = open.get(key);
        if (known != null && !known.isEmptied()) {
            return known;
        }
        if (known != null) {
            known.close();
            forget(known.place());
        }
        Place place = places.byLog().values().stream()
                .filter(each -> each.key().equals(key))
                .findAny()
                .orElse(null);
        if (place != null && (!FollowedFile.isSame(file, place) || Files.size(file) < place.position())) {
            forget(place);
            place = null;
        }
        if (place == null) {
            place = FollowedFile.identified(file, key, randomLog());
            places.put(place);
        }
        FollowedFile opened = FollowedFile.open(file, place);
        if (!key.equals(key(file))) {
            opened.close();
            throw new NoSuchFileException(file.toString()); // renamed since
        }
        open.put(key, opened);
        return opened;
    }

    private static String key(Path file) throws IOException {
        BasicFileAttributes attributes = Files.readAttributes(file, BasicFileAttributes.class);
        return String.valueOf(attributes.fileKey() == null ? file : attributes.fileKey());
    }

    private static String randomLog() {
        byte[] random = new byte[LOG_BYTES];
        new SecureRandom().nextBytes(random);
        return HexFormat.of().formatHex(random);
    }

    private void forget(Place place) {
        open.remove(place.key());
        places.forget(place.log());
    }

    /** Stores what is new in a file; returns whether there was something. */
    private boolean read(FollowedFile file, FollowedPath path, boolean isEnded) throws IOException {
        byte[] lines = file.next(isEnded);
        if (lines.length == 0) {
            return false;
        }
        Place now = file.place().at(file.place().position() + lines.length);
        if (now.headBytes() < FollowedFile.HEAD_BYTES && now.position() > now.headBytes()) {
            now = file.withMoreHead(now);
        }
        String source = path.source() == null ? path.path().getFileName().toString() : path.source();
        String of = path.environment() == null ? environment : path.environment();
        intake.takeFollowed(lines, new Origin(source, of, new FilePlace(now.file(), now.log(), now.position())));
        file.stored(now);
        places.put(now);
        reported.remove(now.file());
        return true;
    }

    /** Reads files to their end that were renamed or deleted. */
    private boolean readEnded() {
        boolean isBusy = false;
        for (Map.Entry<String, FollowedFile> each : List.copyOf(open.entrySet())) {
            FollowedFile file = each.getValue();
            Path path = Path.of(file.place().file());
            try {
                if (isAt(path, each.getKey())) {
                    continue;
                }
                boolean isEnded = file.quietNanos() > ENDED_NANOS;
                isBusy |= read(file, of(path), isEnded);
                if (isEnded) {
                    file.close();
                    open.remove(each.getKey());
                    places.put(file.place().ended());
                }
            } catch (IOException | RuntimeException | OutOfMemoryError e) {
                report(path.toString(), path + ", which was renamed or deleted, cannot be read to its end: " + e);
            }
        }
        return isBusy;
    }

    private static boolean isAt(Path path, String key) throws IOException {
        try {
            return key(path).equals(key);
        } catch (NoSuchFileException e) {
            return false;
        }
    }

    /** Returns the followed path to which a file belongs. */
    private FollowedPath of(Path file) {
        return paths.stream()
                .filter(each -> file.toString().startsWith(each.path().toString()))
                .findFirst()
                .orElse(paths.get(0));
    }

    /** Finds the files that were renamed while nobody followed them, and reports those that are gone. */
    private void reportMissing() {
        for (Place each : List.copyOf(places.byLog().values())) {
            Path path = Path.of(each.file());
            try {
                Path now = isAt(path, each.key()) ? path : found(path, each);
                if (now == null) {
                    places.forget(each.log());
                }
                if (now == null && !each.isEnded()) {
                    problems.accept(path
                            + " was renamed and compressed, or deleted, while it was not followed: what was written to it"
                            + " behind byte " + each.position()
                            + " is not stored; send the archived file to /lines if it has more");
                } else if (now != null && !now.equals(path) && !each.isEnded()) {
                    open.put(each.key(), FollowedFile.open(now, each));
                }
            } catch (IOException e) {
                problems.accept(path + " cannot be followed: " + e);
            }
        }
    }

    private static Path found(Path path, Place place) throws IOException {
        Path folder = path.toAbsolutePath().getParent();
        if (!Files.isDirectory(folder)) {
            return null;
        }
        List<Path> all = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            files.filter(Files::isRegularFile).forEach(all::add);
        }
        for (Path each : all) {
            if (key(each).equals(place.key()) && FollowedFile.isSame(each, place)) {
                return each;
            }
        }
        return null;
    }

    /** Reports a problem of a file once, until it is read again. */
    private void report(String file, String problem) {
        if (!problem.equals(reported.put(file, problem))) {
            problems.accept(problem);
        }
    }

    @Override
    public void close() throws IOException {
        isClosed = true;
        try {
            thread.join(END_MILLIS);
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        thread.interrupt();
        for (FollowedFile each : open.values()) {
            each.close();
        }
    }
}
