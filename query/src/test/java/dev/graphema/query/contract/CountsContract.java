package dev.graphema.query.contract;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Measure;
import java.io.IOException;
import java.math.BigDecimal;
import java.time.Duration;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Counts of values. */
public interface CountsContract extends SourceUnderTest {
    @Test
    default void valuesAreCountedTheMostFrequentFirst() throws IOException {
        Draft[] events = {
            Samples.event(1, "a").service("deck"),
            Samples.event(2, "b").service("gate"),
            Samples.event(3, "c").service("deck"),
            Samples.event(4, "d")
        };
        assertEquals("deck:2 gate:1 null:1", rows(answer(Question.all().counts("service"), events)));
    }

    @Test
    default void valuesWithTheSameTextAreCountedTogether() throws IOException {
        Draft[] events = {
            Samples.event(1, "a").fields(f -> f.put("n", 3)),
            Samples.event(2, "a").fields(f -> f.put("n", "3")),
            Samples.event(3, "a").fields(f -> f.put("n", (Object) new BigDecimal("3"))),
            Samples.event(4, "a").fields(f -> f.put("n", 4))
        };
        assertEquals("3:3 4:1", rows(answer(Question.all().counts("n"), events)));
        assertEquals("3,3:3 4,4:1", rows(answer(Question.all().counts("n", "n"), events)));
    }

    @Test
    default void severalFieldsAreCountedTogether() throws IOException {
        Draft[] events = IntStream.range(0, 3)
                .mapToObj(i -> Samples.event(i, "a")
                        .service("deck")
                        .fields(f -> f.put("lane", i == 1 ? "B1" : "A3").put("n", 1)))
                .toArray(Draft[]::new);
        assertEquals("deck,A3,1:2 deck,B1,1:1", rows(answer(Question.all().counts("service", "lane", "n"), events)));
    }

    @Test
    default void sampledEventsCountWithTheirWeights() throws IOException {
        CountTable counts = answer(
                Question.all().counts("message"),
                Samples.event(1, "heartbeat").weight(20),
                Samples.event(2, "heartbeat").weight(20),
                Samples.event(3, "other"));
        assertEquals("heartbeat:40 other:1", rows(counts));
        assertTrue(counts.all().isEstimate());
        assertTrue(counts.coverage().isEstimate());
        assertEquals(3, counts.all().kept());
        assertEquals(41, counts.all().count());
    }

    @Test
    default void everyAttributeAndKindOfValueHasAText() throws IOException {
        Draft[] events = {
            Samples.event(1, "m", 5, 4)
                    .service("s")
                    .fields(f -> f.put("d", Duration.ofMillis(1_500))
                            .put("l", List.of("a", 1))
                            .put("nothing", (String) null))
        };
        assertEquals(
                "info,m,1.5s,[a, 1],2026-05-15T06:00:00.001Z:1",
                rows(answer(Question.all().counts("level", "message", "d", "l", "time"), events)));
        assertEquals(
                "0000000000000005,0000000000000004:1",
                rows(answer(Question.all().counts("span", "parent"), events)));
        assertNull(answer(Question.all().counts("nothing"), events)
                .rows()
                .get(0)
                .values()
                .get(0));
        assertFalse(answer(Question.all().counts("failure.type"), events).all().isEstimate());
    }

    @Test
    default void onlyEventsThatMatchTheConditionCount() throws IOException {
        Draft[] events = {Samples.event(1, "a"), Samples.event(2, "b")};
        assertEquals("b:1", rows(answer(Question.where("message = b").counts("message"), events)));
        assertEquals(":2", rows(answer(Question.where("weight = 1").counts(), events)));
        assertEquals(":2", rows(answer(Question.where("message != c").counts(), events)));
        assertEquals("", rows(answer(Question.where("weight > 1").counts(), events)));
    }

    @Test
    default void aValueIsMeasured() throws IOException {
        Draft[] events = IntStream.rangeClosed(1, 100)
                .mapToObj(i -> Samples.event(i, i % 2 == 0 ? "even" : "odd").fields(f -> f.put("n", i)))
                .toArray(Draft[]::new);
        CountTable counts = answer(
                Question.where("n <= 99").ask(new Ask.Counts(List.of(Name.of("message")), Name.of("n"))), events);
        assertEquals("odd:50 even:49", rows(counts));
        assertEquals(
                new Measure(
                        50,
                        50,
                        50,
                        BigDecimal.valueOf(2500),
                        BigDecimal.ONE,
                        BigDecimal.valueOf(99),
                        List.of(
                                new Measure.Percentile(BigDecimal.valueOf(50), BigDecimal.valueOf(49)),
                                new Measure.Percentile(BigDecimal.valueOf(95), BigDecimal.valueOf(95)),
                                new Measure.Percentile(BigDecimal.valueOf(99), BigDecimal.valueOf(99))),
                        0,
                        false),
                counts.rows().get(0).measured());
        CountTable all = answer(Question.where("n <= 99").ask(new Ask.Counts(List.of(), Name.of("n"))), events);
        assertEquals(99, all.rows().get(0).events().count());
        assertEquals(BigDecimal.valueOf(4950), all.rows().get(0).measured().sum());
    }

    @Test
    default void itemsOfListsAreCounted() throws IOException {
        Draft[] events = {
            Samples.event(0, "a").fields(f -> f.put("lanes", List.of("A3", "B2", "A3"))),
            Samples.event(1, "b").fields(f -> f.put("lanes", List.of("A3"))),
            Samples.event(2, "c").fields(f -> f.put("lanes", "B2")),
            Samples.event(3, "d").fields(f -> f.put("lanes", List.of())),
            Samples.event(4, "e")
        };
        Name lanes = Name.of("lanes");
        CountTable items = answer(
                Question.all().ask(new Ask.Counts(List.of(lanes), null, Ask.Counts.USUAL_PERCENTILES, true)), events);
        assertEquals("A3:2 B2:2 null:2", rows(items));
        assertEquals(5, items.all().count(), "an event counts once in the total");
        CountTable pairs = answer(
                Question.where("lanes exists")
                        .ask(new Ask.Counts(
                                List.of(lanes, Name.of("message")), null, Ask.Counts.USUAL_PERCENTILES, true)),
                events);
        assertEquals(5, pairs.rows().size(), () -> pairs.rows().toString());
        assertEquals(
                "B2:1 [A3, B2, A3]:1 [A3]:1 []:1 null:1",
                rows(answer(Question.all().counts("lanes"), events)));
    }

    @Test
    default void tooManyValuesForMemoryAreCountedTogether() throws IOException {
        int more = 10;
        Draft[] events = IntStream.range(0, CountTable.MOST_ROWS + more)
                .mapToObj(i -> Samples.event(i, "m" + i))
                .toArray(Draft[]::new);
        CountTable counts = answer(Question.all().counts("message"), events);
        assertEquals(CountTable.OTHERS, counts.rows().get(0).values().get(0));
        assertEquals(more, counts.rows().get(0).events().count());
        assertEquals(1, counts.coverage().truncated().size());
    }

    private static String rows(CountTable counts) {
        return counts.rows().stream()
                .map(row -> String.join(
                                ",", row.values().stream().map(String::valueOf).toList()) + ":"
                        + row.events().count())
                .collect(Collectors.joining(" "));
    }
}
