package dev.graphema.query;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class LogsTest {
    @TempDir
    private Path folder;

    @Test
    void eventsOfAllFilesComeInTheOrderOfTime() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "a1"), Lines.event(4, "a4"));
        Lines.write(folder.resolve("sub/b.jsonl"), Lines.event(2, "b2"), Lines.event(3, "b3"), Lines.event(5, "b5"));

        assertEquals(List.of("a1", "b2", "b3", "a4", "b5"), messages(Logs.at(List.of(folder))));
    }

    @Test
    void eventsOfTheSameTimeKeepTheOrderOfTheirFiles() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "a1"), Lines.event(1, "a2"));
        Lines.write(folder.resolve("b.jsonl"), Lines.event(1, "b1"), Lines.event(1, "b2"));

        assertEquals(List.of("a1", "a2", "b1", "b2"), messages(Logs.at(List.of(folder))));
    }

    @Test
    void disorderWithinAFileIsPutRight() throws IOException {
        Random random = new Random(3);
        int[] millis = IntStream.range(0, 20_000).toArray();
        for (int block = 0; block < millis.length; block += 2_000) {
            for (int i = 0; i < 2_000; i++) {
                int other = block + random.nextInt(2_000);
                int swap = millis[block + i];
                millis[block + i] = millis[other];
                millis[other] = swap;
            }
        }
        Draft[] events =
                IntStream.of(millis).mapToObj(m -> Lines.event(m, "m" + m)).toArray(Draft[]::new);
        Lines.write(folder.resolve("a.jsonl"), events);

        List<String> expected =
                IntStream.range(0, 20_000).mapToObj(m -> "m" + m).toList();
        assertEquals(expected, messages(Logs.at(List.of(folder))));
    }

    @Test
    void conditionAndWindowNarrow() throws IOException {
        Lines.write(
                folder.resolve("a.jsonl"),
                Lines.event(1, "x"),
                Lines.event(2, "y"),
                Lines.event(3, "x"),
                Lines.event(4, "x"));
        Window window = new Window(Lines.START + 2_000_000, Lines.START + 3_000_000);
        Logs logs =
                Logs.at(List.of(folder)).where(Condition.parse("message = x")).during(window);

        Logs.Newest newest = logs.newest(10);

        assertEquals(1, newest.matching());
        assertEquals(4, newest.reading().events());
    }

    @Test
    void aWindowBetweenTwoInstantsHasNotItsEnd() {
        Window window = Window.between(Instant.parse("2026-05-15T06:00:00Z"), Instant.parse("2026-05-15T06:00:01Z"));

        assertTrue(window.contains(Lines.START));
        assertTrue(window.contains(Lines.START + 999_999_999));
        assertFalse(window.contains(Lines.START + 1_000_000_000));
        assertFalse(window.contains(Lines.START - 1));
    }

    @Test
    void theNewestAreTheLastOfAllThatMatch() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "1"), Lines.event(3, "3"), Lines.event(5, "5"));
        Lines.write(folder.resolve("b.jsonl"), Lines.event(2, "2"), Lines.event(4, "4"));
        Logs.Newest newest = Logs.at(List.of(folder)).newest(2);

        assertEquals(
                List.of("4", "5"), newest.events().stream().map(Event::message).toList());
        assertEquals(5, newest.matching());
    }

    @Test
    void readingStopsWhenTheTakerHasEnough() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "1"), Lines.event(2, "2"), Lines.event(3, "3"));
        List<String> taken = new ArrayList<>();
        Logs.at(List.of(folder)).read(event -> {
            taken.add(event.message());
            return taken.size() < 2;
        });

        assertEquals(List.of("1", "2"), taken);
    }

    @Test
    void compressedFilesAreReadWhateverTheirName() throws IOException {
        for (String name : List.of("a.jsonl.gz", "b.jsonl")) {
            try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(folder.resolve(name)))) {
                out.write(Lines.text(Lines.event(1, name)).getBytes(StandardCharsets.UTF_8));
            }
        }

        assertEquals(List.of("a.jsonl.gz", "b.jsonl"), messages(Logs.at(List.of(folder))));
    }

    @Test
    void unreadableLinesAreCountedAndTheRestIsRead() throws IOException {
        Path file = folder.resolve("a.jsonl");
        Files.writeString(
                file,
                "\uFEFF" + Lines.text(Lines.event(1, "one")) + "nonsense\r\n\n  \n" + "x\n".repeat(130)
                        + Lines.text(Lines.event(2, "two")).replace("\n", "\r\n") + "{\"time\":\"2026-05-15T0");
        List<String> messages = new ArrayList<>();
        Reading reading = Logs.at(List.of(folder)).read(event -> messages.add(event.message()));

        assertEquals(List.of("one", "two"), messages);
        assertEquals(132, reading.unreadableCount());
        assertEquals(Reading.MOST_KEPT, reading.unreadable().size());
        assertTrue(reading.unreadable().get(0).toString().startsWith(file + ":2: expected a JSON object, key=value"));
        assertEquals(1, reading.files());
    }

    @Test
    void aStreamOfEventsIsInOrderAndClosesItsFiles() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "one"), Lines.event(3, "three"));
        Lines.write(folder.resolve("b.jsonl"), Lines.event(2, "two"));
        try (Stream<Event> events = Logs.at(List.of(folder)).stream()) {
            assertEquals(
                    List.of("one", "two", "three"), events.map(Event::message).toList());
        }
        try (Stream<Event> events = Logs.at(List.of(folder)).stream()) {
            assertEquals("one", events.findFirst().orElseThrow().message());
        }
    }

    @Test
    void anEmptyFileIsNoFault() throws IOException {
        Files.createFile(folder.resolve("a.jsonl"));

        assertEquals(List.of(), messages(Logs.at(List.of(folder))));
    }

    @Test
    void aStreamIsReadLikeAFile() throws IOException {
        byte[] bytes = Lines.text(Lines.event(1, "piped")).getBytes(StandardCharsets.UTF_8);

        assertEquals(List.of("piped"), messages(Logs.from(new ByteArrayInputStream(bytes))));
    }

    @Test
    void filesAreFoundOnceAndOthersPassedOver() throws IOException {
        Path file = Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "1"));
        Files.writeString(folder.resolve("notes.txt"), "not a log");

        assertEquals(List.of(file), Logs.at(List.of(file, folder)).files());
    }

    @Test
    void aPathThatDoesNotExistIsToldApart() {
        Path missing = folder.resolve("missing");

        NoSuchFileException e = assertThrows(NoSuchFileException.class, () -> Logs.at(List.of(missing)));
        assertEquals(missing.toString(), e.getMessage());
    }

    @Test
    void aSurveyTellsWhatThereIsToBeFound() throws IOException {
        Lines.write(
                folder.resolve("a.jsonl"),
                Lines.event(1, "1").fields(f -> f.put("lane", "A3").group("deck", g -> g.put("plan", 3))),
                Lines.event(9, "2"));
        Survey survey = Survey.of(Logs.at(List.of(folder)).where(Condition.parse("message = none")));

        assertEquals(2, survey.events());
        assertEquals(Lines.START + 1_000_000, survey.first());
        assertEquals(Lines.START + 9_000_000, survey.last());
        assertEquals("[deck, deck.plan, lane]", survey.fields().toString());
        assertEquals(
                "[lnae, deck.x]",
                survey.unknownFields(Condition.parse("lnae = 1 or deck.plan = 1 or level = warn or deck.x exists"))
                        .toString());
    }

    private static List<String> messages(Logs logs) throws IOException {
        List<String> messages = new ArrayList<>();
        logs.read(event -> messages.add(event.message()));
        return messages;
    }
}
