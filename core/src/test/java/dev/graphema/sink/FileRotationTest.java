package dev.graphema.sink;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.graphema.event.Draft;
import dev.graphema.format.Format;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.FileTime;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class FileRotationTest {
    private static final Format MESSAGE =
            (event, to) -> to.text(event.message()).ascii('\n');
    private static final ZoneId BERLIN = ZoneId.of("Europe/Berlin");
    private static final String LINE = "x".repeat(511);

    @TempDir
    private Path folder;

    private volatile Instant now = Instant.parse("2026-05-15T06:31:02Z");
    private final InstantSource clock = () -> now;
    private final List<String> errors = new CopyOnWriteArrayList<>();

    @Test
    void aFileIsPutAsideBeforeItGrowsTooLargeAndNothingIsLost() throws IOException {
        FileSink sink = open(options().rotateAt(2048));
        for (int i = 0; i < 10; i++) {
            write(sink, i + LINE.substring(1));
            now = now.plusSeconds(1);
        }
        sink.close();

        // Each line has 512 bytes, so four of them fill a file.
        assertEquals(
                List.of("deck.20260515T063106Z.jsonl.gz", "deck.20260515T063110Z.jsonl.gz", "deck.jsonl"), names());
        assertEquals("0123456789", firstLetters());
        assertEquals(List.of(), errors);
    }

    @Test
    void twoFilesOfOneMomentGetDifferentNames() throws IOException {
        FileSink sink = open(options().rotateAt(1024));
        for (int i = 0; i < 6; i++) {
            write(sink, i + LINE.substring(1));
        }
        sink.close();

        assertEquals(
                List.of("deck.20260515T063102Z-1.jsonl.gz", "deck.20260515T063102Z.jsonl.gz", "deck.jsonl"), names());
    }

    @Test
    void aDayThatEndsWhileNothingIsWrittenCountsToo() throws IOException {
        FileSink sink =
                open(options().rotateEvery(FileOptions.Every.DAY).zone(BERLIN).compress(false));
        write(sink, "friday");
        now = Instant.parse("2026-05-15T21:59:59Z");
        sink.idle();
        assertEquals(List.of("deck.jsonl"), names());
        now = Instant.parse("2026-05-15T22:00:00Z");
        sink.idle();
        sink.idle();
        assertEquals(List.of("deck.20260515T220000Z.jsonl", "deck.jsonl"), names());
        write(sink, "saturday");
        sink.close();

        assertEquals("saturday\n", Files.readString(folder.resolve("deck.jsonl")));
    }

    @Test
    void aClockThatIsSetBackBeginsANewFileSoThatEachIsInTheOrderOfTime() throws IOException {
        FileSink sink =
                open(options().rotateEvery(FileOptions.Every.DAY).zone(BERLIN).compress(false));
        now = Instant.parse("2099-01-01T12:00:00Z"); // nobody has set the clock yet
        write(sink, "first");
        now = Instant.parse("2026-05-15T06:00:00Z");
        write(sink, "second");
        now = now.minusSeconds(30); // put right a little
        write(sink, "third");
        now = Instant.parse("2026-05-15T22:00:00Z");
        write(sink, "fourth");
        sink.close();

        assertEquals(List.of("deck.20260515T060000Z.jsonl", "deck.20260515T220000Z.jsonl", "deck.jsonl"), names());
        assertEquals("second\nthird\n", Files.readString(folder.resolve("deck.20260515T220000Z.jsonl")));
        assertEquals("fourth\n", Files.readString(folder.resolve("deck.jsonl")));
    }

    @Test
    void aClockThatIsSetBackBetweenTwoProcessesBeginsANewFile() throws IOException {
        Path file = Files.writeString(folder.resolve("deck.jsonl"), "first\n");
        Files.setLastModifiedTime(file, FileTime.from(now.plusSeconds(3600)));
        FileSink sink = open(options().compress(false));
        write(sink, "second");
        sink.close();

        assertEquals(List.of("deck.20260515T063102Z.jsonl", "deck.jsonl"), names());
        assertEquals("second\n", Files.readString(file));
    }

    @Test
    void whatWasArchivedBeforeTheClockWasSetBackIsTheOldest() throws IOException {
        Path archived = Files.writeString(folder.resolve("deck.20990101T120000Z.jsonl"), "first\n");
        // The clock of the file system may differ from that of the process.
        Files.setLastModifiedTime(archived, FileTime.from(Instant.now().minus(Duration.ofDays(1))));
        FileSink sink = open(
                options().rotateEvery(FileOptions.Every.HOUR).compress(false).keepCount(1));
        write(sink, "second");
        now = now.plus(Duration.ofHours(1));
        write(sink, "third");
        sink.close();

        assertEquals(List.of("deck.20260515T073102Z.jsonl", "deck.jsonl"), names());
    }

    @Test
    void aFileThatIsArchivedWhileOldOnesAreDeletedIsNotTakenForTheOldest() throws IOException {
        Path old = Files.writeString(folder.resolve("deck.20260515T050000Z.jsonl"), "first\n");
        Files.setLastModifiedTime(old, FileTime.from(now));
        Thread program = Thread.currentThread();
        CountDownLatch timeRead = new CountDownLatch(1);
        CountDownLatch archived = new CountDownLatch(1);
        InstantSource slow = () -> {
            Instant read = now;
            if (Thread.currentThread() != program) {
                timeRead.countDown();
                awaitQuietly(archived); // the other thread has read the time and then gets no processor
            }
            return read;
        };
        FileSink sink = FileSink.open(
                options()
                        .rotateEvery(FileOptions.Every.HOUR)
                        .compress(false)
                        .keepCount(1)
                        .build(),
                MESSAGE,
                slow,
                errors::add);
        write(sink, "second");
        awaitQuietly(timeRead);
        now = now.plus(Duration.ofHours(1));
        write(sink, "third");
        archived.countDown();
        sink.close();

        assertEquals(List.of("deck.20260515T073102Z.jsonl", "deck.jsonl"), names());
    }

    private static void awaitQuietly(CountDownLatch latch) {
        try {
            latch.await();
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
    }

    @Test
    void anEmptyFileIsNotPutAside() throws IOException {
        FileSink sink = open(options().rotateEvery(FileOptions.Every.HOUR));
        for (int i = 0; i < 5; i++) {
            now = now.plus(Duration.ofHours(1));
            sink.idle();
        }
        sink.close();

        assertEquals(List.of("deck.jsonl"), names());
    }

    @Test
    void daysOf23And25HoursEndWhenTheyEnd() throws IOException {
        now = Instant.parse("2026-03-28T23:30:00Z"); // half past midnight; the clock goes forward in this night
        FileSink sink =
                open(options().rotateEvery(FileOptions.Every.DAY).zone(BERLIN).compress(false));
        write(sink, "sunday");
        now = Instant.parse("2026-03-29T21:59:59Z");
        sink.idle();
        assertEquals(1, names().size());
        now = Instant.parse("2026-03-29T22:00:00Z");
        sink.idle();
        assertEquals(2, names().size());
        sink.close();
    }

    @Test
    void aPathWithADateChangesWithTheDay() throws IOException {
        Path path = folder.resolve("deck-{date}.jsonl");
        FileSink sink = open(FileOptions.builder(path).zone(BERLIN).compress(false));
        write(sink, "friday");
        now = Instant.parse("2026-05-15T22:00:00Z");
        write(sink, "saturday");
        sink.close();

        assertEquals("saturday\n", Files.readString(folder.resolve("deck-2026-05-16.jsonl")));
        assertEquals(List.of("deck-2026-05-15.20260515T220000Z.jsonl", "deck-2026-05-16.jsonl"), names());
    }

    @Test
    void aDayWithoutEventsLeavesNoEmptyFile() throws IOException {
        FileSink sink =
                open(FileOptions.builder(folder.resolve("deck-{date}.jsonl")).zone(BERLIN));
        now = Instant.parse("2026-05-15T22:00:00Z");
        sink.idle();
        sink.close();

        assertEquals(List.of("deck-2026-05-16.jsonl"), names());
    }

    @Test
    void aRestartGoesOnWithTheFile() throws IOException {
        for (String message : List.of("one", "two")) {
            FileSink sink = open(options());
            write(sink, message);
            sink.close();
            Files.setLastModifiedTime(folder.resolve("deck.jsonl"), FileTime.from(now));
        }

        assertEquals("one\ntwo\n", Files.readString(folder.resolve("deck.jsonl")));
    }

    @Test
    void surplusFilesAreDeletedTheOldestFirstAndOnlyOnesOwn() throws IOException {
        Files.writeString(folder.resolve("deck.20200101T000000Z.txt"), "somebody else's");
        Files.writeString(folder.resolve("deck.notes.jsonl"), "somebody else's");
        Files.writeString(folder.resolve("decks.20200101T000000Z.jsonl"), "somebody else's");
        FileSink sink = open(options().rotateAt(1024).keepCount(2).compress(false));
        for (int i = 0; i < 10; i++) {
            write(sink, i + LINE.substring(1));
            now = now.plusSeconds(1);
        }
        sink.close();

        assertEquals(2 + 1 + 3, names().size(), names().toString());
        assertTrue(names().contains("deck.notes.jsonl"));
        assertFalse(names().contains("deck.20260515T063104Z.jsonl"));
    }

    @Test
    void totalSizeAndAgeAreBounds() throws IOException {
        FileSink sink = open(options().rotateAt(1024).keepTotal(2100).compress(false));
        for (int i = 0; i < 10; i++) {
            write(sink, LINE);
        }
        sink.close();
        assertEquals(3, names().size(), names().toString());

        now = Instant.now().plus(Duration.ofDays(15));
        open(options().keepAge(Duration.ofDays(14)).compress(false)).close();
        assertEquals(List.of("deck.jsonl"), names());
    }

    @Test
    void whatAnEarlierProcessLeftUncompressedIsCompressedAtTheNextStart() throws IOException {
        Files.writeString(folder.resolve("deck.20260514T063102Z.jsonl"), "left\n");
        open(options()).close();

        assertEquals(List.of("deck.20260514T063102Z.jsonl.gz", "deck.jsonl"), names());
        assertEquals("left\n", content(folder.resolve("deck.20260514T063102Z.jsonl.gz")));
    }

    @Test
    void whatIsTooMuchGoesBeforeItIsCompressed() throws IOException {
        for (int i = 1; i <= 3; i++) {
            Files.writeString(folder.resolve("deck.2026051" + i + "T063102Z.jsonl"), "left " + i + "\n");
        }
        open(options().keepCount(1)).close();

        assertEquals(List.of("deck.20260513T063102Z.jsonl.gz", "deck.jsonl"), names());
        assertEquals("left 3\n", content(folder.resolve("deck.20260513T063102Z.jsonl.gz")));
    }

    @Test
    void twoSinksOnOnePathAreKeptApartAndItIsReported() throws IOException {
        FileSink one = open(options());
        FileSink two = open(options());
        write(one, "one");
        write(two, "two");
        one.close();
        two.close();

        assertEquals("one\n", Files.readString(folder.resolve("deck.jsonl")));
        assertEquals("two\n", Files.readString(folder.resolve("deck.2.jsonl")));
        assertEquals(1, errors.size());
        assertTrue(errors.get(0).endsWith("Give each a path of its own"), errors.get(0));
    }

    @Test
    void permissionsAreSetWhereTheFileSystemKnowsThem() throws IOException {
        assumeTrue(FileSystems.getDefault().supportedFileAttributeViews().contains("posix"));
        open(options().permissions("rw-------")).close();

        assertEquals(
                "rw-------",
                PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve("deck.jsonl"))));
    }

    @Test
    void eachBatchCanBeForcedToTheDisk() throws IOException {
        FileSink sink = open(options().sync(true));
        write(sink, "safe");
        assertEquals("safe\n", Files.readString(sink.file()));
        sink.close();
    }

    @Test
    void badValuesAreRefusedAtOnce() {
        assertEquals(
                "rotate.at: 10 (expected: 1024 or more)",
                assertThrows(IllegalArgumentException.class, () -> options().rotateAt(10))
                        .getMessage());
        assertThrows(IllegalArgumentException.class, () -> options().keepAge(Duration.ZERO));
        assertThrows(IllegalArgumentException.class, () -> options().permissions("all"));
    }

    private FileOptions.Builder options() {
        return FileOptions.builder(folder.resolve("deck.jsonl"));
    }

    private FileSink open(FileOptions.Builder options) throws IOException {
        return FileSink.open(options.build(), MESSAGE, clock, errors::add);
    }

    private static void write(FileSink sink, String message) throws IOException {
        sink.write(new Draft().message(message).finish());
        sink.flush();
    }

    private List<String> names() throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.map(file -> file.getFileName().toString()).sorted().toList();
        }
    }

    /** The first letter of each line of all files, the oldest file first. */
    private String firstLetters() throws IOException {
        List<String> files = new ArrayList<>(names());
        files.remove("deck.jsonl");
        files.add("deck.jsonl");
        StringBuilder letters = new StringBuilder();
        for (String file : files) {
            content(folder.resolve(file)).lines().forEach(line -> letters.append(line.charAt(0)));
        }
        return letters.toString();
    }

    private static String content(Path file) throws IOException {
        if (!file.toString().endsWith(".gz")) {
            return Files.readString(file);
        }
        try (GZIPInputStream stream = new GZIPInputStream(Files.newInputStream(file))) {
            return new String(stream.readAllBytes(), StandardCharsets.UTF_8);
        }
    }
}
