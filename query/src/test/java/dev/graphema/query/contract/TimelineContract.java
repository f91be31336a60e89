package dev.graphema.query.contract;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.TimeMap;
import dev.graphema.query.answer.Timeline;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Counts by time. */
public interface TimelineContract extends SourceUnderTest {
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
    default void aGivenStepCountsTheEventsInIt(Duration step, ZoneId zone) throws IOException {
        Random random = new Random(23);
        Draft[] events = Stream.generate(() -> Samples.event(random.nextInt(1000 * 3600 * 50), "m"))
                .limit(500)
                .toArray(Draft[]::new);
        long offset = zone.getRules().getOffset(events[0].time()).getTotalSeconds() * 1_000_000_000L;
        Map<Long, Long> expected = Stream.of(events)
                .collect(Collectors.groupingBy(
                        event -> Math.floorDiv(event.epochNanos() + offset, step.toNanos()) * step.toNanos() - offset,
                        TreeMap::new,
                        Collectors.counting()));

        Timeline timeline = answer(Question.all().ask(new Ask.TimeSteps(60, step, zone, null, 0)), events);

        assertEquals(step, timeline.step());
        assertEquals(
                expected,
                timeline.steps().stream()
                        .filter(each -> each.count() > 0)
                        .collect(Collectors.toMap(Timeline.Step::from, Timeline.Step::count, Long::sum, TreeMap::new)));
    }

    @Test
    default void withoutAStepAFittingOneIsChosen() throws IOException {
        Timeline timeline = answer(
                Question.all().ask(Ask.TimeSteps.most(60).in(ZoneId.of("UTC"))),
                Samples.event(0, "first"),
                Samples.event(3_599_999, "last"));

        assertEquals(Duration.ofMinutes(1), timeline.step());
        assertEquals(60, timeline.steps().size());
    }

    @Test
    default void stepsAreDividedByAValueAndSpikesAreMarked() throws IOException {
        Draft[] events = IntStream.range(0, 200)
                .mapToObj(i ->
                        Samples.event(i < 100 ? i * 1_000L : 50_000 + i, "m").service(i < 100 ? "deck" : "gate"))
                .toArray(Draft[]::new);

        Timeline timeline = answer(
                Question.all().ask(Ask.TimeSteps.of(Duration.ofSeconds(1)).by(Name.of("service"), 2)), events);

        assertEquals(List.of("deck", "gate"), timeline.values());
        assertEquals(100, timeline.steps().size());
        Timeline.Step spike = timeline.steps().get(50);
        assertEquals(List.of(1L, 100L), spike.byValue());
        assertEquals(
                List.of(spike),
                timeline.steps().stream().filter(Timeline.Step::isSpike).toList());
    }

    @Test
    default void aTimeMapCountsWarningsAndErrorsOfEachSource() throws IOException {
        List<Name> names = List.of(Name.of("service"), Name.of("instance"));
        TimeMap map = answer(
                Question.all().ask(new Ask.TimeCells(60, Duration.ofSeconds(1), ZoneId.of("UTC"), names, 2)),
                Samples.event(0, "m").service("deck").instance("deck-2").level(Level.ERROR),
                Samples.event(100, "m").service("deck").instance("deck-2").level(Level.WARN),
                Samples.event(2_000, "m")
                        .service("deck")
                        .instance("deck-1")
                        .level(Level.INFO)
                        .weight(10),
                Samples.event(2_500, "m").service("gate").level(Level.FATAL),
                Samples.event(2_999, "m").service("gate").level(Level.DEBUG));

        assertEquals(3, map.begins().size());
        assertEquals(
                List.of(
                        new TimeMap.Row(
                                List.of("deck", "deck-2"),
                                List.of(2L, 0L, 0L),
                                List.of(1L, 0L, 0L),
                                List.of(1L, 0L, 0L)),
                        new TimeMap.Row(
                                Arrays.asList("gate", null),
                                List.of(0L, 0L, 2L),
                                List.of(0L, 0L, 0L),
                                List.of(0L, 0L, 1L))),
                map.rows());
        assertEquals(1, map.others());
        assertEquals(List.of(2L, 0L, 12L), map.all().counts());
        assertEquals(List.of(2L, 0L, 3L), map.kept());
    }

    @Test
    default void withoutEventsThereAreNoSteps() throws IOException {
        assertEquals(
                List.of(),
                answer(Question.where("message = none").timeline(60), Samples.event(0, "a"))
                        .steps());
    }
}
