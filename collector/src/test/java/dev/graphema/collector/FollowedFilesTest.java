package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.input.FollowedPath;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(90)
class FollowedFilesTest {
    @TempDir
    private Path folder;

    private final List<String> problems = new CopyOnWriteArrayList<>();
    private Path logs;
    private Path log;
    private Collector collector;
    private int written;

    @BeforeEach
    void create() throws IOException {
        logs = Files.createDirectory(folder.resolve("logs"));
        log = logs.resolve("deck.log");
    }

    private void start(Path... paths) throws IOException {
        CollectorOptions options =
                CollectorOptions.usual(folder.resolve("store"), problems::add).port(0);
        for (Path each : paths) {
            options = options.follow(new FollowedPath(each, null, "production"));
        }
        collector = Collector.start(options);
    }

    @AfterEach
    void close() throws IOException {
        if (collector != null) {
            collector.close();
        }
    }

    private void write(Path file, int count) throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < count; i++) {
            lines.append("{\"ts\":\"2026-05-15T05:00:00Z\",\"level\":\"info\",\"msg\":\"m")
                    .append(written++)
                    .append("\"}\n");
        }
        append(file, lines.toString());
    }

    private static void append(Path file, String text) throws IOException {
        Files.write(file, text.getBytes(StandardCharsets.UTF_8), StandardOpenOption.CREATE, StandardOpenOption.APPEND);
    }

    private List<Event> events() throws IOException {
        List<Event> events = new ArrayList<>();
        QueryExecutor.read(
                Question.all(), StoreSource.at(folder.resolve("store")), progress -> true, event -> events.add(event));
        return events;
    }

    /** Waits until every written line is stored, and checks that each is once. */
    private List<Event> allStored() throws Exception {
        List<Event> events = events();
        while (events.size() < written) {
            TimeUnit.MILLISECONDS.sleep(20);
            events = events();
        }
        TreeSet<String> messages = new TreeSet<>();
        events.forEach(event -> messages.add(event.message()));
        assertEquals(written, events.size());
        assertEquals(
                new TreeSet<>(IntStream.range(0, written).mapToObj(i -> "m" + i).toList()), messages);
        assertEquals(List.of(), problems);
        return events;
    }

    @Test
    void whatWasThereAndWhatIsWrittenLaterIsStored() throws Exception {
        write(log, 3);
        start(log);
        Event event = allStored().get(0);
        assertEquals("deck.log", event.fields().get("collector.source"));
        assertEquals("production", event.fields().get("collector.environment"));
        assertEquals(log.toString(), event.fields().get("collector.file"));
        append(log, "{\"msg\":\"m3\"");
        TimeUnit.MILLISECONDS.sleep(500);
        assertEquals(3, events().size());
        append(log, "}\n");
        written++;
        allStored();
    }

    @Test
    void renamedFilesAreReadToTheirEnd() throws Exception {
        start(log);
        for (int i = 0; i < 5; i++) {
            write(log, 10);
            Path old = logs.resolve("deck.log." + i);
            Files.move(log, old);
            write(old, 2);
            write(log, 1);
        }
        allStored();
    }

    @Test
    void filesThatWereRenamedBeforeAreNotOfTheFile() throws Exception {
        Path old = logs.resolve("deck.log.7");
        append(old, "{\"msg\":\"old\"}\n");
        start(log);
        write(log, 2);
        allStored();
        close();
        Files.move(log, logs.resolve("deck.log.8"));
        write(log, 2);
        Files.move(log, logs.resolve("deck.log.9"));
        write(log, 2);
        start(log);
        allStored();
    }

    @Test
    void filesOfAFolderAreFollowedAndAlsoWhenTheyAreEmptied() throws Exception {
        Path other = Files.createDirectory(logs.resolve("gate")).resolve("gate.jsonl");
        write(other, 2);
        Files.writeString(logs.resolve("notes.txt"), "no log\n");
        start(logs);
        write(log, 50);
        allStored();
        Files.writeString(log, "");
        write(log, 1);
        allStored();
        Files.move(log, logs.resolve("deck.log.1"));
        write(log, 3);
        allStored();
    }

    @Test
    void nothingIsReadTwiceOrLeftOutAfterARestart() throws Exception {
        write(log, 20);
        start(log);
        allStored();
        close();
        write(log, 5);
        start(log);
        allStored();
        close();
        write(log, 5);
        Files.move(log, logs.resolve("deck.log.1"));
        write(log, 4);
        start(log);
        allStored();
    }

    @Test
    void whatIsStoredCountsIfThePlaceIsOlder() throws Exception {
        write(log, 20);
        start(log);
        allStored();
        Path places = folder.resolve("store").resolve("followed.json");
        byte[] before = Files.readAllBytes(places);
        write(log, 20);
        allStored();
        close();
        Files.write(places, before); // as if the process had been killed between the two
        write(log, 1);
        start(log);
        allStored();
    }

    @Test
    void aFileThatIsGoneIsReported() throws Exception {
        write(log, 3);
        start(log);
        allStored();
        close();
        Files.delete(log);
        start(log);
        while (problems.isEmpty()) {
            TimeUnit.MILLISECONDS.sleep(10);
        }
        assertTrue(problems.get(0).contains("is not stored; send the archived file to /lines"), problems.toString());
    }

    @Test
    void theLinesOfAStackTraceAreOneEvent() throws Exception {
        start(log);
        append(log, "2026-05-15 05:00:02 ERROR gate barrier is stuck\n");
        append(log, "java.lang.IllegalStateException: stuck\n\tat skerry.gate.Barrier.open(Barrier.java:17)\n");
        List<Event> events = events();
        while (events.isEmpty()) {
            TimeUnit.MILLISECONDS.sleep(20);
            events = events();
        }
        assertEquals(1, events.size());
        assertEquals("java.lang.IllegalStateException", events.get(0).failure().type());
    }

    @Test
    void nginxIsFollowedAcrossRotation() throws Exception {
        Nginx.assumeInstalled();
        Path access = logs.resolve("access.log");
        start(access);
        try (Nginx nginx = Nginx.start(folder.resolve("nginx"), access)) {
            for (int i = 0; i < 3; i++) {
                nginx.request("/" + i);
                Files.move(access, logs.resolve("access.log." + i));
                nginx.request("/old" + i);
                nginx.reopen();
                nginx.request("/new" + i);
            }
            while (events().size() < 9) {
                TimeUnit.MILLISECONDS.sleep(50);
            }
            String all = events().toString();
            for (int i = 0; i < 3; i++) {
                assertTrue(all.contains("/old" + i) && all.contains("/new" + i), all);
            }
            assertEquals(9, events().size());
        }
        assertEquals(List.of(), problems);
    }
}
