package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.source.CoverageBuilder;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.NoSuchFileException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class LineFilesTest {
    @TempDir
    private Path folder;

    @Test
    void eventsOfAllFilesComeInTheOrderOfTime() throws IOException {
        Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "a1"), Samples.event(4, "a4"));
        Samples.write(
                folder.resolve("sub/b.jsonl"), Samples.event(2, "b2"), Samples.event(3, "b3"), Samples.event(5, "b5"));

        assertEquals(List.of("a1", "b2", "b3", "a4", "b5"), messages(Asked.at(folder)));
    }

    @Test
    void eventsOfTheSameTimeKeepTheOrderOfTheirFiles() throws IOException {
        Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "a1"), Samples.event(1, "a2"));
        Samples.write(folder.resolve("b.jsonl"), Samples.event(1, "b1"), Samples.event(1, "b2"));

        assertEquals(List.of("a1", "a2", "b1", "b2"), messages(Asked.at(folder)));
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
                IntStream.of(millis).mapToObj(m -> Samples.event(m, "m" + m)).toArray(Draft[]::new);
        Samples.write(folder.resolve("a.jsonl"), events);

        List<String> expected =
                IntStream.range(0, 20_000).mapToObj(m -> "m" + m).toList();
        assertEquals(expected, messages(Asked.at(folder)));
    }

    @Test
    void conditionAndWindowNarrow() throws IOException {
        Samples.write(
                folder.resolve("a.jsonl"),
                Samples.event(1, "x"),
                Samples.event(2, "y"),
                Samples.event(3, "x"),
                Samples.event(4, "x"));
        Window window = new Window(Samples.START + 2_000_000, Samples.START + 3_000_000);
        Asked logs = Asked.at(folder).where("message = x").during(window);

        FoundEvents newest = logs.newest(10);

        assertEquals(1, newest.matching());
        assertEquals(4, newest.coverage().events());
    }

    @Test
    void aWindowBetweenTwoInstantsHasNotItsEnd() {
        Window window = Window.between(Instant.parse("2026-05-15T06:00:00Z"), Instant.parse("2026-05-15T06:00:01Z"));

        assertTrue(window.contains(Samples.START));
        assertTrue(window.contains(Samples.START + 999_999_999));
        assertFalse(window.contains(Samples.START + 1_000_000_000));
        assertFalse(window.contains(Samples.START - 1));
    }

    @Test
    void theNewestAreTheLastOfAllThatMatch() throws IOException {
        Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "1"), Samples.event(3, "3"), Samples.event(5, "5"));
        Samples.write(folder.resolve("b.jsonl"), Samples.event(2, "2"), Samples.event(4, "4"));
        FoundEvents newest = Asked.at(folder).newest(2);

        assertEquals(
                List.of("4", "5"), newest.events().stream().map(Event::message).toList());
        assertEquals(5, newest.matching());
    }

    @Test
    void readingStopsWhenTheTakerHasEnough() throws IOException {
        Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "1"), Samples.event(2, "2"), Samples.event(3, "3"));
        List<String> taken = new ArrayList<>();
        Asked.at(folder).read(event -> {
            taken.add(event.message());
            return taken.size() < 2;
        });

        assertEquals(List.of("1", "2"), taken);
    }

    @Test
    void compressedFilesAreReadWhateverTheirName() throws IOException {
        for (String name : List.of("a.jsonl.gz", "b.jsonl")) {
            try (GZIPOutputStream out = new GZIPOutputStream(Files.newOutputStream(folder.resolve(name)))) {
                out.write(Samples.text(Samples.event(1, name)).getBytes(StandardCharsets.UTF_8));
            }
        }

        assertEquals(List.of("a.jsonl.gz", "b.jsonl"), messages(Asked.at(folder)));
    }

    @Test
    void linesWithoutATimeAreEventsAndAreCounted() throws IOException {
        Path file = folder.resolve("a.jsonl");
        Files.writeString(
                file,
                "\uFEFF" + Samples.text(Samples.event(1, "one")) + "nonsense\r\n\n  \n" + "x\n".repeat(130)
                        + Samples.text(Samples.event(2, "two")).replace("\n", "\r\n") + "{\"time\":\"2026-05-15T0");
        List<String> messages = new ArrayList<>();
        Coverage coverage = Asked.at(folder).read(event -> messages.add(event.message()));

        assertEquals("one", messages.get(0));
        assertEquals("nonsense", messages.get(1));
        assertEquals(134, messages.size());
        assertEquals(0, coverage.unreadableCount());
        assertEquals(132, coverage.damagedCount());
        Coverage.Problem timeless = coverage.damaged().get(0);
        assertEquals("there is no time", timeless.reason());
        assertEquals(131, timeless.count());
        assertEquals(CoverageBuilder.MOST_PLACES, timeless.places().size());
        assertEquals(file + ":2: there is no time", timeless.places().get(0).toString());
        assertEquals("the line is cut off", coverage.damaged().get(1).reason());
        assertEquals(1, coverage.files());
    }

    @Test
    void aStreamOfEventsIsInOrderAndClosesItsFiles() throws IOException {
        Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "one"), Samples.event(3, "three"));
        Samples.write(folder.resolve("b.jsonl"), Samples.event(2, "two"));
        try (Stream<Event> events = Asked.at(folder).stream()) {
            assertEquals(
                    List.of("one", "two", "three"), events.map(Event::message).toList());
        }
        try (Stream<Event> events = Asked.at(folder).stream()) {
            assertEquals("one", events.findFirst().orElseThrow().message());
        }
    }

    @Test
    void anEmptyFileIsNoFault() throws IOException {
        Files.createFile(folder.resolve("a.jsonl"));

        assertEquals(List.of(), messages(Asked.at(folder)));
    }

    @Test
    void aStreamIsReadLikeAFile() throws IOException {
        byte[] bytes = Samples.text(Samples.event(1, "piped")).getBytes(StandardCharsets.UTF_8);

        assertEquals(List.of("piped"), messages(Asked.from(new ByteArrayInputStream(bytes))));
    }

    @Test
    void filesAreFoundOnceAndOthersPassedOver() throws IOException {
        Path file = Samples.write(folder.resolve("a.jsonl"), Samples.event(1, "1"));
        Files.writeString(folder.resolve("notes.txt"), "not a log");

        assertEquals(List.of(file), LineFiles.at(List.of(file, folder)).files());
    }

    @Test
    void aPathThatDoesNotExistIsReportedApart() {
        Path missing = folder.resolve("missing");

        NoSuchFileException e = assertThrows(NoSuchFileException.class, () -> Asked.at(missing));
        assertEquals(missing.toString(), e.getMessage());
    }

    @Test
    void aSurveyReportsWhatThereIsToBeFound() throws IOException {
        Samples.write(
                folder.resolve("a.jsonl"),
                Samples.event(1, "1").fields(f -> f.put("lane", "A3").group("deck", g -> g.put("plan", 3))),
                Samples.event(9, "2"));
        FieldCatalogue survey = Asked.at(folder).answer(new Ask.Fields());

        assertEquals(2, survey.events());
        assertEquals(Samples.START + 1_000_000, survey.first());
        assertEquals(Samples.START + 9_000_000, survey.last());
        assertEquals("[deck, deck.plan, lane]", survey.fields().toString());
        assertEquals(
                "[lnae, deck.x]",
                survey.unknownFields(Condition.parse("lnae = 1 or deck.plan = 1 or level = warn or deck.x exists"))
                        .toString());
    }

    private static List<String> messages(Asked logs) throws IOException {
        List<String> messages = new ArrayList<>();
        logs.read(event -> messages.add(event.message()));
        return messages;
    }

    @ParameterizedTest
    @CsvSource({
        "1970-01-01T00:00:00Z, PT0.001S, 1000001",
        "1970-01-01T00:00:00Z, , 60",
        "0001-01-01T00:00:00Z, PT1S, 1000001",
        "0001-01-01T00:00:00Z, , 60",
        "9999-12-31T23:59:59Z, PT1M, 1000001",
        "9999-12-31T23:59:59Z, PT10000000H, 1",
        "2026-05-15T06:00:00Z, PT99999999999H, 1",
    })
    void aClockFarAwayDoesNotCauseTooManySteps(String far, Duration step, int most) throws IOException {
        Path file = folder.resolve("logs.jsonl");
        Files.writeString(
                file,
                "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"near\"}\n{\"time\":\"" + far
                        + "\",\"message\":\"far\"}\n");

        Timeline timeline = Asked.at(file).answer(new Ask.TimeSteps(60, step, ZoneId.of("UTC"), null, 0));

        assertEquals(
                2, timeline.steps().stream().mapToLong(Timeline.Step::count).sum());
        assertTrue(timeline.steps().size() <= most, timeline.steps().size() + " of " + timeline.step());
    }
}
