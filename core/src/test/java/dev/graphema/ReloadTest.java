package dev.graphema;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsException;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.MemorySink;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ReloadTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);

    @TempDir
    Path folder;

    /** Even settings: debug comes in and goes to "even"; odd settings: only info comes in and goes to "odd". */
    private static Settings settings(int number, MemorySink even, MemorySink odd) {
        boolean isEven = number % 2 == 0;
        return Settings.builder()
                .service("s" + number)
                .level(isEven ? Level.DEBUG : Level.INFO)
                .sink("even", even)
                .sink("odd", odd)
                .route(Condition.EVERYTHING, isEven ? "even" : "odd")
                .build();
    }

    @Test
    void underLoadTwoHundredReloadsLoseDoubleAndMixNothing() throws InterruptedException {
        MemorySink even = new MemorySink();
        MemorySink odd = new MemorySink();
        try (Graphema graphema = Graphema.isolated(builder -> {
            builder.service("s0").level(Level.DEBUG).sink("even", even).sink("odd", odd);
            builder.route(Condition.EVERYTHING, "even");
        })) {
            AtomicBoolean enough = new AtomicBoolean();
            AtomicLong warnings = new AtomicLong();
            Thread[] threads = new Thread[4];
            for (int t = 0; t < threads.length; t++) {
                threads[t] = new Thread(() -> {
                    Logger log = graphema.logger("skerry.deck");
                    while (!enough.get()) {
                        log.debug("detail");
                        log.warn("always", f -> f.put("number", warnings.incrementAndGet()));
                        Thread.yield();
                    }
                });
                threads[t].start();
            }
            for (int number = 1; number <= 200; number++) {
                graphema.reload(settings(number, even, odd));
                long before = warnings.get();
                await().atMost(Duration.ofMinutes(2))
                        .pollDelay(Duration.ZERO)
                        .pollInterval(Duration.ofMillis(1))
                        .until(() -> warnings.get() > before + 10); // so that events come under each of them
            }
            enough.set(true);
            for (Thread thread : threads) {
                thread.join();
            }
            assertTrue(graphema.flush(LIMIT));
            graphema.lost().forEach((sink, lost) -> assertEquals(Map.of(), withoutDebug(lost), sink));
            BitSet seen = new BitSet();
            for (Event event : even.events()) {
                assertTrue(Integer.parseInt(event.service().substring(1)) % 2 == 0, "even got " + event.service());
                count(event, seen);
            }
            for (Event event : odd.events()) {
                assertTrue(Integer.parseInt(event.service().substring(1)) % 2 == 1, "odd got " + event.service());
                assertTrue(event.level().passes(Level.INFO), "let in by the old settings, routed by the new: " + event);
                count(event, seen);
            }
            assertEquals(warnings.get(), seen.cardinality());
            assertTrue(warnings.get() > 200, "only " + warnings);
        }
    }

    private static void count(Event event, BitSet seen) {
        if (event.message().equals("always")) {
            int number = ((Long) event.fields().get("number")).intValue();
            assertTrue(!seen.get(number), number + " came twice");
            seen.set(number);
        }
    }

    /** Four threads emit more than one thread writes: debug events may be shed, and are counted then. */
    private static Map<Level, Long> withoutDebug(Map<Level, Long> lost) {
        lost.remove(Level.DEBUG);
        return lost;
    }

    @Test
    void aFileWhoseSettingsChangeGoesOnWithoutGapOrSecondFile() throws Exception {
        Path file = folder.resolve("deck.jsonl");
        AtomicBoolean enough = new AtomicBoolean();
        AtomicLong emitted = new AtomicLong();
        try (Graphema graphema = Graphema.isolated(settings -> settings.file("log", file))) {
            Thread talker = new Thread(() -> {
                Logger log = graphema.logger("skerry.deck");
                while (!enough.get()) {
                    log.warn("emitted", f -> f.put("number", emitted.incrementAndGet()));
                    Thread.yield();
                }
            });
            talker.start();
            for (int i = 0; i < 20; i++) {
                graphema.reload(Settings.builder()
                        .sink("log", SinkSettings.file(file).set(FileKind.KEEP_DAYS, i + 1))
                        .build());
            }
            enough.set(true);
            talker.join();
            graphema.flush(LIMIT);
        }
        List<String> lines = Files.readAllLines(file);
        assertEquals(
                emitted.get(),
                lines.size(),
                () -> "in " + Arrays.toString(folder.toFile().list()));
        ObjectMapper json = new ObjectMapper();
        for (int i = 0; i < lines.size(); i++) {
            JsonNode event = json.readTree(lines.get(i));
            assertEquals(i + 1, event.at("/fields/number").asInt());
        }
        assertTrue(Files.notExists(folder.resolve("deck.2.jsonl")));
    }

    @Test
    void aSinkThatIsTheSameKeepsItsFileAndAnotherThresholdIsNoOtherSink() {
        MemorySink sink = new MemorySink();
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink))) {
            graphema.logger("skerry").info("one");
            graphema.reload(Settings.builder()
                    .sink("memory", SinkSettings.given(sink).level(Level.WARN))
                    .build());
            graphema.logger("skerry").info("two");
            graphema.logger("skerry").warn("three");
            graphema.flush(LIMIT);
            assertEquals(
                    List.of("one", "three"),
                    sink.events().stream().map(Event::message).toList());
            assertEquals(2, graphema.written().get("memory"));
        }
    }

    @Test
    void aSinkThatCannotBeOpenedLeavesEverythingAsItWas() throws IOException {
        MemorySink sink = new MemorySink();
        Path notAFolder = Files.writeString(folder.resolve("file"), "");
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink))) {
            Settings bad = Settings.builder()
                    .level(Level.DEBUG)
                    .sink("memory", sink)
                    .file("log", notAFolder.resolve("deck.jsonl"))
                    .build();
            assertThrows(GraphemaException.class, () -> graphema.reload(bad));
            graphema.logger("skerry").debug("refused");
            graphema.logger("skerry").info("taken");
            graphema.flush(LIMIT);
            assertEquals(
                    List.of("taken"), sink.events().stream().map(Event::message).toList());
        }
    }

    @Test
    void aFileThatChangesIsReloadedByItselfAndAMistakeLeavesTheOldInForce() throws IOException {
        MemorySink sink = new MemorySink();
        Path file = Files.writeString(folder.resolve("graphema.yaml"), "watch: 20ms\nlevels: {default: warn}\n");
        try (Graphema graphema = Graphema.start(file, given -> given.sink("memory", sink))) {
            assertEquals(Level.WARN, graphema.threshold("skerry"));
            replace(file, "watch: 20ms\nlevels: {default: debug}\nroutes: {to: memory}\n");
            await().atMost(LIMIT).until(() -> graphema.threshold("skerry") == Level.DEBUG);
            await().atMost(LIMIT).until(() -> sink.events().size() == 1);
            Event change = sink.events().get(0);
            assertEquals("dev.graphema.settings: settings changed", change.logger() + ": " + change.message());
            assertEquals(file.toString(), change.fields().get("settings"));

            replace(file, "levels: {default: inof}\n");
            await().atMost(LIMIT).until(() -> graphema.lastRefusal() != null);
            assertTrue(graphema.lastRefusal().contains("did you mean info?"), graphema.lastRefusal());
            assertEquals(Level.DEBUG, graphema.threshold("skerry"));
            assertThrows(SettingsException.class, graphema::reload);

            replace(file, "levels: {default: error}\n");
            await().atMost(LIMIT).until(() -> graphema.threshold("skerry") == Level.ERROR);
            assertEquals(null, graphema.lastRefusal());
        }
    }

    /** Replaces a file at once; a write is in two steps, and the file is empty between them, which is valid. */
    private static void replace(Path file, String text) throws IOException {
        Path written = Files.writeString(file.resolveSibling("written"), text);
        Files.move(written, file, StandardCopyOption.ATOMIC_MOVE);
    }

    @Test
    void noFileEndsTheWatch() throws IOException {
        MemorySink sink = new MemorySink();
        Path file = Files.writeString(folder.resolve("graphema.yaml"), "watch: 20ms\nlevels: {default: warn}\n");
        try (Graphema graphema = Graphema.start(file, given -> given.sink("memory", sink))) {
            for (String hostile : List.of("a: " + "[".repeat(100_000), "#" + "x".repeat(10_000_000), "\0")) {
                Files.writeString(file, hostile);
                await().atMost(LIMIT).until(() -> graphema.lastRefusal() != null);
                Files.writeString(file, "watch: 20ms\nlevels: {default: error}\n");
                // A file that is being written is empty for a moment, which is valid.
                await().atMost(LIMIT)
                        .until(() -> graphema.lastRefusal() == null && graphema.threshold("skerry") == Level.ERROR);
            }
            Files.delete(file);
            Files.createDirectory(file);
            await().atMost(LIMIT).until(() -> graphema.lastRefusal() != null);
            Files.delete(file);
            Files.writeString(file, "watch: 20ms\nlevels: {default: info}\n");
            await().atMost(LIMIT).until(() -> graphema.threshold("skerry") == Level.INFO);
        }
    }
}
