package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.log.Disk;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class StoreTest {
    private static final Instant START = Instant.parse("2026-05-15T06:00:00Z");

    @TempDir
    private Path folder;

    private final List<String> errors = new CopyOnWriteArrayList<>();

    @Test
    void anEventIsFoundAsSoonAsItIsAppended() throws IOException {
        try (Store store = open()) {
            StoreSource other = StoreSource.at(folder);
            assertEquals(List.of(), messages(other));
            store.append(line(1, "lane closed"));
            assertEquals(List.of("lane closed"), messages(other));
            store.tidy();
            assertEquals(List.of("lane closed"), messages(other));
            store.append(line(2, "lane open"));
            assertEquals(List.of("lane closed", "lane open"), messages(other));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void onlyOneWriterAtATime() throws IOException {
        try (Store store = open()) {
            IOException refused = assertThrows(IOException.class, this::open);
            assertTrue(refused.getMessage().contains("another process writes the store"), refused.getMessage());
            store.append(line(1, "still written"));
        }
        try (Store store = open()) {
            assertEquals(List.of("still written"), messages(store.source()));
        }
    }

    @Test
    void eventsSurviveTheirProcessAndAreSealedByTheNext() throws IOException {
        for (int i = 0; i < 3; i++) {
            try (Store store = open()) {
                store.append(line(i, "run " + i));
            }
        }
        try (Store store = open()) {
            store.tidy();
        }
        assertEquals(List.of("run 0", "run 1", "run 2"), messages(StoreSource.at(folder)));
        assertEquals(1, ManifestFile.read(folder).segments().size());
    }

    @Test
    void lateEventsComeInTheOrderOfTimeAndIntoTheSegmentOfTheirDay() throws IOException {
        try (Store store = open()) {
            for (int i = 0; i < 6000; i++) {
                store.append(line(i, "in order"));
            }
            store.append(line(-3600, "an hour late"));
            store.append(line(-86_400, "a day late"));
            assertEquals(
                    List.of("a day late", "an hour late", "in order"),
                    messages(store.source()).subList(0, 3));
            assertEquals("a day late", oldest(store.source()));
            store.tidy();
            assertEquals(
                    List.of("a day late", "an hour late", "in order"),
                    messages(store.source()).subList(0, 3));
            assertEquals("a day late", oldest(store.source()));
            assertEquals(2, ManifestFile.read(folder).segments().size());
        }
    }

    @Test
    void logsAreSealedWhileSegmentsAreMerged() throws IOException {
        Store[] opened = new Store[1];
        long[] firstLogs = new long[2];
        Disk disk = new CalledDisk(Disk.REAL, (what, file) -> {
            if (!file.getFileName().toString().startsWith("0000000009.gseg")) {
                return; // only the merged segment matters
            }
            if (what.equals("create")) {
                firstLogs[0] = ManifestFile.read(folder).firstLog();
                opened[0].append(line(9_000, "while it is merged"));
            } else if (what.equals("rename")) {
                firstLogs[1] = ManifestFile.read(folder).firstLog();
            }
        });
        StoreOptions small = new StoreOptions(
                1, Duration.ofHours(1), Duration.ofMinutes(15), InstantSource.fixed(START), errors::add);
        try (Store store = Store.open(folder, small, disk)) {
            opened[0] = store;
            for (int i = 0; i < 8; i++) {
                int segment = i;
                store.append(lines(IntStream.range(0, 1_000)
                        .mapToObj(j -> new String(line(segment * 1_000 + j, "m"), StandardCharsets.UTF_8).strip())));
            }
            store.tidy();
            assertTrue(firstLogs[1] > firstLogs[0], firstLogs[0] + " and " + firstLogs[1]);
            assertEquals(8_001, messages(store.source()).size());
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void eventsThatComeAgainAreStoredOnce() throws IOException {
        byte[] events = lines(IntStream.rangeClosed(1, 100)
                .mapToObj(i -> "{\"time\":\"%s\",\"level\":\"info\",\"message\":\"m\",\"id\":\"00f067aa0ba902b7-%d\"}"
                        .formatted(START.plusSeconds(i), i)));
        try (Store store = open()) {
            store.append(events);
            store.append(events);
            store.tidy();
            store.append(events);
        }
        try (Store store = open()) {
            store.append(events);
            store.append(line(200, "without an id"));
            store.append(line(200, "without an id"));
        }
        assertEquals(102, messages(StoreSource.at(folder)).size());
    }

    @Test
    void linesOfAnyKindAreKeptByteByByte() throws IOException {
        String lines = "{\"ts\":\"2026-05-15T06:00:01Z\",\"severity\":\"WARNING\",\"msg\":\"other\"}\n\nnot an event\n"
                + new String(line(2, "own"), StandardCharsets.UTF_8) + "\u001f\u008b looks compressed\n{\"cut\":";
        try (Store store = open()) {
            store.append(lines.getBytes(StandardCharsets.UTF_8));
            List<String> before = messages(store.source()).stream()
                    .map(String::valueOf)
                    .sorted()
                    .toList();
            store.tidy();
            assertEquals(
                    before,
                    messages(store.source()).stream()
                            .map(String::valueOf)
                            .sorted()
                            .toList());
        }
        Path segment =
                folder.resolve(ManifestFile.read(folder).segments().get(0).file());
        assertEquals(sorted(lines), sorted(StoreTools.lines(segment)));
    }

    @Test
    void manySmallSegmentsAreMerged() throws IOException {
        try (Store store = open()) {
            for (int i = 0; i < 30; i++) {
                store.append(line(30 - i, "event " + i));
                store.tidy();
            }
            assertTrue(ManifestFile.read(folder).segments().size() < 9);
            assertEquals(30, messages(store.source()).size());
            assertEquals("event 29", oldest(store.source()));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void replacedFilesAreLeftForQuestionsThatBeganBefore() throws IOException {
        StoreOptions usual = options();
        try (Store store = open()) {
            store.append(line(1, "one"));
            store.tidy();
            assertTrue(Files.exists(folder.resolve("0000000001.glog")));
        }
        StoreOptions atOnce =
                new StoreOptions(usual.logBytes(), usual.logAge(), Duration.ZERO, usual.clock(), usual.error());
        try (Store store = Store.open(folder, atOnce)) {
            store.tidy();
            assertEquals(List.of("one"), messages(store.source()));
        }
        assertEquals(List.of("0000000001.gseg", "lock", "manifest"), files());
    }

    @Test
    void aFullLogIsSealedInTheBackground() throws IOException {
        StoreOptions usual = options();
        StoreOptions small = new StoreOptions(1000, usual.logAge(), usual.replacedAge(), usual.clock(), usual.error());
        try (Store store = Store.open(folder, small)) {
            for (int i = 0; i < 50; i++) {
                store.append(line(i, "event " + i));
            }
        }
        assertTrue(ManifestFile.read(folder).firstLog() > 1);
        assertEquals(50, messages(StoreSource.at(folder)).size());
        assertEquals(List.of(), errors);
    }

    @Test
    void followersGetEachNewEventOnce() throws IOException {
        try (Store store = open()) {
            store.append(line(1, "before"));
            List<String> received = new ArrayList<>();
            try (Following following = store.source().follow(Condition.parse("level = info"))) {
                for (int i = 0; i < 5; i++) {
                    store.append(line(i, "event " + i));
                    following.poll(event -> received.add(event.message()));
                    store.tidy();
                }
                store.append(line(5, "event 5"));
                following.poll(event -> received.add(event.message()));
                following.poll(event -> received.add(event.message()));
            }
            assertEquals(List.of("event 0", "event 1", "event 2", "event 3", "event 4", "event 5"), received);
        }
    }

    @Test
    void oneDamagedPlaceOfTheManifestCostsNothingAndTwoAreReported() throws IOException {
        try (Store store = open()) {
            store.append(line(1, "one"));
            store.tidy();
        }
        Path manifest = folder.resolve("manifest");
        byte[] bytes = Files.readAllBytes(manifest);
        for (int i = 0; i < bytes.length; i++) {
            byte[] damaged = bytes.clone();
            damaged[i] ^= 4;
            Files.write(manifest, damaged);
            assertEquals(1, ManifestFile.read(folder).segments().size(), "byte " + i);
            assertEquals(1, StoreCheck.damage(folder).size(), "byte " + i);
        }
        bytes[10] ^= 4;
        bytes[bytes.length - 10] ^= 4;
        Files.write(manifest, bytes);
        IOException damaged = assertThrows(IOException.class, () -> ManifestFile.read(folder));
        assertTrue(damaged.getMessage().contains("is damaged in both of its copies"), damaged.getMessage());
    }

    @Test
    void aCopyOfTheManifestAndThenOfTheOtherFilesIsABackup() throws IOException {
        Path backup = Files.createDirectory(folder.resolve("backup"));
        Path live = folder.resolve("live");
        try (Store store = Store.open(live, options())) {
            for (int i = 0; i < 10; i++) {
                store.append(line(i, "event " + i));
                if (i % 2 == 0) {
                    store.tidy();
                }
            }
            Files.copy(live.resolve("manifest"), backup.resolve("manifest"));
            for (int i = 10; i < 20; i++) {
                store.append(line(i, "event " + i));
                store.tidy(); // seals and merges what the copied manifest names
            }
            try (Stream<Path> files = Files.list(live)) {
                for (Path file :
                        files.filter(each -> !each.endsWith("manifest")).toList()) {
                    Files.copy(file, backup.resolve(file.getFileName()));
                }
            }
        }
        try (Store restored = Store.open(backup, options())) {
            List<String> found = messages(restored.source());
            assertEquals(found.stream().distinct().toList(), found);
            assertTrue(
                    found.containsAll(
                            IntStream.range(0, 10).mapToObj(i -> "event " + i).toList()),
                    found.toString());
        }
    }

    @Test
    void anInterruptedThreadDoesNotBreakTheStore() throws IOException {
        try (Store store = open()) {
            Thread.currentThread().interrupt();
            store.append(line(1, "interrupted"));
            assertTrue(Thread.interrupted());
            store.append(line(2, "after that"));
            assertEquals(List.of("interrupted", "after that"), messages(store.source()));
        }
        assertEquals(List.of(), errors);
    }

    @Test
    void filesOfAStoreWithoutManifestAreNotTakenForAnEmptyStore() throws IOException {
        try (Store store = open()) {
            store.append(line(1, "one"));
        }
        Files.delete(folder.resolve("manifest"));
        IOException refused = assertThrows(IOException.class, this::open);
        assertTrue(refused.getMessage().contains("but no manifest"), refused.getMessage());
    }

    private StoreOptions options() {
        return StoreOptions.usual(errors::add);
    }

    private Store open() throws IOException {
        return Store.open(folder, options());
    }

    static byte[] line(int second, String message) {
        return "{\"time\":\"%s.000000000Z\",\"level\":\"info\",\"message\":\"%s\"}\n"
                .formatted(START.plusSeconds(second).toString().replace("Z", ""), message)
                .getBytes(StandardCharsets.UTF_8);
    }

    private static byte[] lines(Stream<String> lines) {
        return String.join("\n", lines.toList()).getBytes(StandardCharsets.UTF_8);
    }

    private static List<String> sorted(String lines) {
        return lines.lines().sorted().toList();
    }

    static List<String> messages(StoreSource source) throws IOException {
        FoundEvents found = QueryExecutor.answer(Question.where("").oldest(100_000), source);
        return found.events().stream().map(Event::message).toList();
    }

    private static String oldest(StoreSource source) throws IOException {
        try (Stream<Event> events = QueryExecutor.stream(Question.where(""), source)) {
            return events.findFirst().orElseThrow().message();
        }
    }

    private List<String> files() throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.map(file -> file.getFileName().toString()).sorted().toList();
        }
    }
}
