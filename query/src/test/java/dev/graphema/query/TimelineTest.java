package dev.graphema.query;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class TimelineTest {
    private static final long SEED = 23;

    @TempDir
    private Path folder;

    @ParameterizedTest
    @CsvSource({
        "PT0.25S, UTC",
        "PT1S, UTC",
        "PT1M30S, UTC",
        "PT1M, Asia/Kolkata",
        "PT5M, Europe/Oslo",
        "PT1H, Asia/Kolkata",
        "PT24H, Asia/Kolkata",
        "PT24H, America/New_York"
    })
    void aStepThatIsGivenCountsWhatFallsIntoIt(Duration step, ZoneId zone) throws IOException {
        Random random = new Random(SEED);
        Draft[] events = Stream.generate(() -> Lines.event(random.nextInt(1000 * 3600 * 50), "m"))
                .limit(500)
                .toArray(Draft[]::new);
        long offset = zone.getRules().getOffset(events[0].soFar().time()).getTotalSeconds() * 1_000_000_000L;
        Map<Long, Long> expected = Stream.of(events)
                .collect(Collectors.groupingBy(
                        event -> Math.floorDiv(event.soFar().epochNanos() + offset, step.toNanos()) * step.toNanos()
                                - offset,
                        TreeMap::new,
                        Collectors.counting()));
        Path file = Lines.write(folder.resolve("logs.jsonl"), events);

        Timeline timeline = Timeline.of(Logs.at(List.of(file)), new Timeline.Plan(60, step, zone, null, 0));

        assertEquals(step, timeline.step());
        assertEquals(
                expected,
                timeline.steps().stream()
                        .filter(each -> each.count() > 0)
                        .collect(Collectors.toMap(Timeline.Step::from, Timeline.Step::count, Long::sum, TreeMap::new)));
    }

    @Test
    void withoutAStepOneIsChosenThatFits() throws IOException {
        Path file = Lines.write(folder.resolve("logs.jsonl"), Lines.event(0, "first"), Lines.event(3_599_999, "last"));

        Timeline timeline = Timeline.of(Logs.at(List.of(file)), new Timeline.Plan(60, null, ZoneId.of("UTC"), null, 0));

        assertEquals(Duration.ofMinutes(1), timeline.step());
        assertEquals(60, timeline.steps().size());
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
    void aClockThatIsFarAwayDoesNotMakeTooManySteps(String far, Duration step, int most) throws IOException {
        Path file = folder.resolve("logs.jsonl");
        Files.writeString(
                file,
                "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"near\"}\n{\"time\":\"" + far
                        + "\",\"message\":\"far\"}\n");

        Timeline timeline = Timeline.of(Logs.at(List.of(file)), new Timeline.Plan(60, step, ZoneId.of("UTC"), null, 0));

        assertEquals(
                2, timeline.steps().stream().mapToLong(Timeline.Step::count).sum());
        assertTrue(timeline.steps().size() <= most, timeline.steps().size() + " of " + timeline.step());
    }
}
