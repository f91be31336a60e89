package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.query.Window;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.contract.Samples;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** A file that is large enough to be cut into several pieces. */
class FileChunkTest {
    private static final int EVENTS = 150_000;
    private static final long STEP_MILLIS = 100;

    @TempDir
    Path folder;

    private Path file;

    @BeforeEach
    void write() throws IOException {
        file = folder.resolve("large.jsonl");
        Draft[] events = new Draft[EVENTS];
        Random random = new Random(1);
        for (int i = 0; i < EVENTS; i++) {
            int number = i;
            // Out of order by less than a second, as several threads write them.
            events[i] = Samples.event(i * STEP_MILLIS + random.nextInt(900), "m" + i % 7)
                    .service("deck")
                    .instance("deck-" + i % 3)
                    .thread("a thread with a long name, so that the line is as long as they usually are")
                    .fields(f -> f.put("number", number).put("pad", "x".repeat(100)));
        }
        Samples.write(file, events);
    }

    @Test
    void piecesAreWholeLinesAndTogetherTheFile() throws IOException {
        List<FileChunk> pieces = FileChunk.of(file, Window.ALWAYS);
        assertTrue(pieces.size() > 2, "the file has " + Files.size(file) + " bytes");
        long end = 0;
        for (FileChunk piece : pieces) {
            assertEquals(end, piece.from());
            end = piece.to();
            try (var stream = piece.open()) {
                assertEquals('{', stream.read());
            }
        }
        assertEquals(Files.size(file), end);
    }

    @Test
    void thePiecesThatAreReadFirstAreShort() throws IOException {
        List<FileChunk> pieces = FileChunk.of(file, Window.ALWAYS);
        long first = pieces.get(pieces.size() - 1).to()
                - pieces.get(pieces.size() - 1).from();
        long last = pieces.get(0).to() - pieces.get(0).from();
        assertTrue(first <= 256 * 1024, "the first one has " + first + " bytes");
        assertTrue(last > 4 * first, "the last one has " + last + " bytes");
    }

    @Test
    void aLineThatIsLongerThanAPieceStaysWhole() throws IOException {
        Path longLines = folder.resolve("long.jsonl");
        String line = "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"" + "x".repeat(3 << 20) + "\"}\n";
        Files.writeString(longLines, line + line + "{\"time\":\"2026-05-15T06:00:01Z\"}\n" + line);
        assertEquals(4, Asked.at(longLines).newest(10).events().size());
        assertEquals(4, Asked.at(longLines).counts("level").all().count());
    }

    @Test
    void severalThreadsFindWhatOneFinds() throws IOException {
        Asked logs = Asked.at(file).where("instance = deck-1 and number >= 100");
        List<Event> inOrder = new ArrayList<>();
        Coverage coverage = logs.read(inOrder::add);
        FoundEvents newest = logs.newest(50);
        assertEquals(inOrder.size(), newest.matching());
        assertEquals(numbers(inOrder.subList(inOrder.size() - 50, inOrder.size())), numbers(newest.events()));
        assertEquals(coverage.events(), newest.coverage().events());
        CountTable tally = logs.measured("message", "number");
        assertEquals(7, tally.rows().size());
        assertEquals(inOrder.size(), tally.all().count());
        assertEquals(
                inOrder.stream()
                        .mapToLong(event -> (Long) event.fields().get("number"))
                        .sum(),
                tally.rows().stream()
                        .mapToDouble(row -> row.measured().sum().doubleValue())
                        .sum());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void aWindowOfASortedFileIsFoundWithoutReadingTheRest(long seed) throws IOException {
        Random random = new Random(seed);
        for (int i = 0; i < 20; i++) {
            long from = Samples.START + random.nextInt(EVENTS) * STEP_MILLIS * 1_000_000L;
            Window window = new Window(from, from + random.nextInt(600_000) * 1_000_000L);
            Asked logs = Asked.at(file).during(window);
            List<Event> expected = new ArrayList<>();
            logs.read(expected::add);
            FoundEvents found = logs.newest(Integer.MAX_VALUE);
            assertEquals(numbers(expected), numbers(found.events()), "seed " + seed);
            assertTrue(
                    found.coverage().bytes() < Files.size(file) / 2,
                    found.coverage().bytes() + " bytes were read");
        }
        Asked none = Asked.at(file).during(new Window(0, 1_000));
        assertEquals(0, none.newest(1).matching());
        assertEquals(0, none.newest(1).coverage().bytes(), "a file that the window excludes is not read");
    }

    private static List<Object> numbers(List<Event> events) {
        return events.stream().map(event -> event.fields().get("number")).toList();
    }

    @Test
    void aFileThatIsNotSortedIsReadWhole() throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(file));
        List<String> turned = new ArrayList<>(lines.subList(EVENTS / 2, EVENTS));
        turned.addAll(lines.subList(0, EVENTS / 2));
        Files.write(file, turned);
        Window window = new Window(Samples.START, Samples.START + 60_000_000_000L);
        FoundEvents found = Asked.at(file).during(window).newest(Integer.MAX_VALUE);
        assertTrue(found.matching() > 550, found.matching() + " events");
    }

    @Test
    void aLineThatIsNoEventIsReportedWithItsNumberInTheFile() throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(file));
        lines.set(EVENTS - 10, "{\"time\"}}");
        Files.write(file, lines);
        Coverage coverage = Asked.at(file).newest(1).coverage();
        assertEquals(1, coverage.damagedCount());
        assertEquals(EVENTS - 9, coverage.damaged().get(0).places().get(0).line());
    }

    @Test
    void readingCanBeStopped() throws IOException {
        Coverage coverage =
                Asked.at(file).watched(so -> so.bytes() < 5 << 20).newest(10).coverage();
        assertTrue(coverage.isStopped());
        assertTrue(coverage.bytes() < 12 << 20, coverage.bytes() + " bytes");
        List<Event> some = new ArrayList<>();
        assertTrue(Asked.at(file)
                .watched(so -> so.bytes() < 5 << 20)
                .read(some::add)
                .isStopped());
        assertTrue(some.size() < EVENTS / 2);
    }

    @ParameterizedTest
    @ValueSource(ints = {20, 59, 600})
    void anEventThatWasHeldBackIsFoundInItsTime(int secondsLate) throws IOException {
        List<String> lines = new ArrayList<>(Files.readAllLines(file));
        int place = EVENTS / 2;
        int late = (int) (secondsLate * 1000L / STEP_MILLIS);
        lines.add(place + late, lines.get(place).replace("\"message\":\"m", "\"message\":\"held "));
        Files.write(file, lines);
        Instant middle = Asked.at(file)
                .where("message starts held")
                .newest(1)
                .events()
                .get(0)
                .time();

        Window window = Window.between(middle.minusMillis(500), middle.plusMillis(500));
        Asked logs = Asked.at(file).during(window);
        assertEquals(1, logs.where("message starts held").newest(2).matching());
        long[] around = {0};
        Asked.at(file).read(event -> {
            around[0] += window.contains(event.epochNanos()) ? 1 : 0;
            return true;
        });
        assertEquals(around[0], logs.newest(1).matching());
    }

    @Test
    void aFileThatIsRotatedWhileItIsReadIsReadToItsEnd() throws IOException {
        boolean[] rotated = {false};
        Asked logs = Asked.at(file).watched(reading -> {
            if (!rotated[0]) {
                rotated[0] = true;
                rotate();
            }
            return true;
        });

        assertEquals(EVENTS, logs.newest(1).matching());
        assertTrue(rotated[0]);
    }

    @Test
    void aFileThatIsRotatedWhileItIsOpenedIsFound() throws IOException {
        FileChunk chunk = FileChunk.of(file, Window.ALWAYS).get(0);
        boolean[] rotated = {false};
        FileChunk.Located renamedAfterwards = () -> {
            Path path = chunk.located();
            if (!rotated[0]) {
                rotated[0] = true;
                rotate();
            }
            return path;
        };

        try (FileChannel channel = chunk.openFile(renamedAfterwards)) {
            assertEquals(Files.size(folder.resolve("large.jsonl.1")), channel.size());
        }
    }

    @Test
    void aFileThatIsRotatedAgainAndAgainIsReported() throws IOException {
        FileChunk chunk = FileChunk.of(file, Window.ALWAYS).get(0);
        Path other = folder.resolve("other.jsonl");
        Samples.write(other, Samples.event(0, "new"));
        IOException lost = assertThrows(IOException.class, () -> chunk.openFile(() -> other));
        assertEquals("it was rotated while it was read; run the command again", lost.getMessage());
    }

    @Test
    void aFileThatIsGoneWhileItIsReadIsReported() throws IOException {
        Window hour = Window.between(Instant.ofEpochSecond(0), Instant.now());
        FileChunk chunk = FileChunk.of(file, hour).get(0);
        rotate();
        Files.delete(folder.resolve("large.jsonl.1"));

        IOException gone = assertThrows(IOException.class, chunk::open);
        assertEquals("it was rotated while it was read; run the command again", gone.getMessage());
    }

    private void rotate() {
        try {
            Files.move(file, folder.resolve("large.jsonl.1"));
            Samples.write(file, Samples.event(0, "new"));
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
