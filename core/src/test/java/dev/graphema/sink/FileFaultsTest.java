package dev.graphema.sink;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.format.Format;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** What other processes do to a file that is being written, and what the file system refuses. */
class FileFaultsTest {
    private static final Format MESSAGE =
            (event, to) -> to.text(event.message()).ascii('\n');

    @TempDir
    private Path folder;

    private Instant now = Instant.parse("2026-05-15T06:31:02Z");
    private final List<String> errors = new CopyOnWriteArrayList<>();

    @Test
    void aRemovedFileIsMadeAgainWithWhatWasWrittenSinceItWasLastSeen() throws IOException {
        Path file = folder.resolve("logs/deck.log");
        FileSink sink = open(file, 1024 * 1024);
        write(sink, "one");
        now = now.plusSeconds(2);
        write(sink, "two");
        write(sink, "three");
        Files.delete(file);
        write(sink, "four");
        now = now.plusSeconds(1);
        sink.idle();
        write(sink, "five");
        sink.close();

        assertEquals(List.of("two", "three", "four", "five"), Files.readAllLines(file));
        assertEquals(
                List.of(file + " was removed by another process: a new file is written, which begins with the last 15"
                        + " bytes of the old one"),
                errors);
    }

    @Test
    void aRemovedFolderIsMadeAgainToo() throws IOException {
        Path file = folder.resolve("logs/deck.log");
        FileSink sink = open(file, 1024 * 1024);
        write(sink, "one");
        deleteAll(folder.resolve("logs"));
        now = now.plusSeconds(1);
        write(sink, "two");
        sink.close();

        assertEquals(List.of("one", "two"), Files.readAllLines(file));
    }

    @Test
    void aFileThatAnotherProcessRenamesIsFollowedByANewOneAndNothingIsDoubled() throws IOException {
        Path file = folder.resolve("deck.log");
        FileSink sink = open(file, 1024 * 1024);
        write(sink, "one");
        Files.move(file, folder.resolve("deck.log.1"));
        write(sink, "two");
        now = now.plusSeconds(1);
        write(sink, "three");
        sink.close();

        assertEquals(List.of("one", "two"), Files.readAllLines(folder.resolve("deck.log.1")));
        assertEquals(List.of("three"), Files.readAllLines(file));
    }

    @Test
    void afterAFailedReopeningAtRotationEventsGoIntoANewFileAndNotIntoTheArchivedOne() throws IOException {
        Path file = folder.resolve("logs/deck.log");
        FileSink sink = open(file, 1024);
        write(sink, "a".repeat(1000));
        deleteAll(folder.resolve("logs"));
        Files.writeString(folder.resolve("logs"), "in the way");
        now = now.plusSeconds(1);
        sink.write(event("b".repeat(1000)));
        assertThrows(IOException.class, sink::flush);
        assertThrows(IOException.class, sink::flush);
        Files.delete(folder.resolve("logs"));
        sink.flush();
        sink.close();

        assertEquals(List.of("a".repeat(1000), "b".repeat(1000)), linesOfAllFiles());
    }

    @Test
    void noFileGrowsBeyondItsSizeHoweverLargeABatchIs() throws IOException {
        FileSink sink = open(folder.resolve("deck.log"), 1024);
        for (int i = 0; i < 100; i++) {
            sink.write(event(i + "x".repeat(98)));
        }
        sink.flush();
        sink.close();

        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                assertTrue(Files.size(file) <= 1024, file + " has " + Files.size(file));
            }
        }
        assertEquals(100, linesOfAllFiles().size());
    }

    @Test
    void ofFilesOfOneSecondTheOldestAreDeletedFirst() throws IOException {
        FileSink sink = FileSink.open(
                FileOptions.builder(folder.resolve("deck.log"))
                        .rotateAt(1024)
                        .keepCount(3)
                        .compress(false)
                        .build(),
                MESSAGE,
                () -> now,
                errors::add);
        for (int i = 10; i < 40; i++) {
            write(sink, i + "x".repeat(1000));
        }
        sink.close();

        List<String> kept = linesOfAllFiles().stream()
                .map(line -> line.substring(0, 2))
                .sorted()
                .toList();
        assertEquals(List.of("36", "37", "38", "39"), kept);
    }

    @Test
    void compressedArchivesHaveThePermissionsOfTheFile() throws IOException {
        FileSink sink = FileSink.open(
                FileOptions.builder(folder.resolve("deck.log"))
                        .rotateAt(1024)
                        .permissions("rw-------")
                        .build(),
                MESSAGE,
                () -> now,
                errors::add);
        write(sink, "x".repeat(1000));
        write(sink, "y".repeat(1000));
        sink.close();

        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.toList()) {
                assertEquals(
                        "rw-------",
                        PosixFilePermissions.toString(Files.getPosixFilePermissions(file)),
                        file.toString());
            }
        }
    }

    @Test
    void anInterruptedThreadDoesNotLeaveTheSinkDead() throws IOException {
        FileSink sink = open(folder.resolve("deck.log"), 1024 * 1024);
        write(sink, "one");
        Thread.currentThread().interrupt();
        sink.write(event("two"));
        assertThrows(IOException.class, sink::flush);
        Thread.interrupted();
        write(sink, "three");
        sink.close();

        assertEquals(List.of("one", "two", "three"), Files.readAllLines(folder.resolve("deck.log")));
    }

    /** {@code -Dschedules=10000 -Dseed=1} runs more of them. */
    @Test
    @Timeout(1200)
    void inRandomSchedulesOfFaultsNoEventIsMissingUnlessItsFileWasRemovedLongAfterwards() throws IOException {
        long seed = Long.getLong("seed", System.nanoTime());
        int schedules = Integer.getInteger("schedules", 100);
        for (int i = 0; i < schedules; i++) {
            run(seed + i);
            deleteAll(folder.resolve("logs"));
        }
        System.out.println(schedules + " schedules of file faults from seed " + seed + ": no difference");
    }

    private void run(long seed) throws IOException {
        Random random = new Random(seed);
        Path logs = folder.resolve("logs");
        Path file = logs.resolve("deck.log");
        FileSink sink = open(file, 1024 + random.nextInt(2048));
        Set<String> mayBeGone = new HashSet<>();
        Set<String> written = new HashSet<>();
        boolean blocked = false;
        int number = 0;
        for (int step = 0; step < 60; step++) {
            switch (random.nextInt(8)) {
                case 0 -> now = now.plusMillis(random.nextInt(2000));
                case 1 -> {
                    if (!blocked && Files.exists(file)) {
                        mayBeGone.addAll(Files.readAllLines(file));
                        Files.delete(file);
                    }
                }
                case 2 -> {
                    blocked = !blocked;
                    if (blocked) {
                        mayBeGone.addAll(allLines(logs));
                        deleteAll(logs);
                        Files.writeString(logs, "in the way");
                    } else {
                        Files.delete(logs);
                    }
                }
                default -> {
                    for (int i = random.nextInt(20); i > 0; i--) {
                        String message = number++ + "x".repeat(random.nextInt(200));
                        sink.write(event(message));
                        written.add(message);
                    }
                    flushIfPossible(sink);
                }
            }
        }
        if (blocked) {
            Files.delete(logs);
        }
        now = now.plusSeconds(1);
        sink.flush();
        sink.close();
        List<String> found = allLines(logs);
        Set<String> missing = new HashSet<>(written);
        missing.removeAll(found);
        missing.removeAll(mayBeGone);
        assertEquals(Set.of(), missing, "seed " + seed);
        assertEquals(found.size(), new HashSet<>(found).size(), "seed " + seed + ": doubled");
    }

    private static void flushIfPossible(FileSink sink) {
        try {
            sink.flush();
        } catch (IOException e) {
            return; // kept, and tried again
        }
    }

    private List<String> linesOfAllFiles() throws IOException {
        return allLines(folder);
    }

    private static List<String> allLines(Path of) throws IOException {
        List<String> lines = new ArrayList<>();
        if (!Files.exists(of)) {
            return lines;
        }
        try (Stream<Path> files = Files.walk(of)) {
            for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
                if (file.toString().endsWith(".gz")) {
                    try (var in = new java.util.zip.GZIPInputStream(Files.newInputStream(file))) {
                        lines.addAll(new String(in.readAllBytes()).lines().toList());
                    }
                } else {
                    lines.addAll(Files.readAllLines(file));
                }
            }
        }
        return lines;
    }

    private static void deleteAll(Path of) throws IOException {
        if (Files.exists(of)) {
            try (Stream<Path> files = Files.walk(of)) {
                for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
                    Files.delete(file);
                }
            }
        }
    }

    private FileSink open(Path file, long rotateAt) throws IOException {
        return FileSink.open(
                FileOptions.builder(file).rotateAt(rotateAt).compress(false).build(), MESSAGE, () -> now, errors::add);
    }

    private static void write(FileSink sink, String message) throws IOException {
        sink.write(event(message));
        sink.flush();
    }

    private static Event event(String message) {
        return new Draft().message(message).finish();
    }
}
