package dev.graphema.query;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TallyTest {
    @TempDir
    private Path folder;

    @Test
    void valuesAreCountedTheMostFrequentFirst() throws IOException {
        write(
                Lines.event(1, "a").service("deck"),
                Lines.event(2, "b").service("gate"),
                Lines.event(3, "c").service("deck"),
                Lines.event(4, "d"));

        assertEquals("deck:2 gate:1 null:1", rows(tally("service")));
    }

    @Test
    void valuesThatAreToldAlikeAreCountedTogether() throws IOException {
        write(
                Lines.event(1, "a").fields(f -> f.put("n", 3)),
                Lines.event(2, "a").fields(f -> f.put("n", "3")),
                Lines.event(3, "a").fields(f -> f.put("n", (Object) new BigDecimal("3"))),
                Lines.event(4, "a").fields(f -> f.put("n", 4)));

        assertEquals("3:3 4:1", rows(tally("n")));
        assertEquals("3,3:3 4,4:1", rows(tally("n", "n")));
    }

    @Test
    void aWeightThatStandsForNoEventIsAField() throws IOException {
        String line = Lines.text(Lines.event(1, "a").fields(f -> f.put("n", 5)));
        Files.writeString(
                folder.resolve("other.jsonl"),
                line.replace(",\"fields\"", ",\"weight\":0,\"fields\"")
                        + line.replace(",\"fields\"", ",\"weight\":-3,\"fields\""));

        assertEquals("a:2", rows(tally("message")));
        assertEquals("-3:1 0:1", rows(tally("fields.weight")));
        assertEquals(
                new Measure(2, 1, 2, 10, 5, 5, 5, 5, 5, false),
                Tally.of(Logs.at(List.of(folder)), List.of(Name.of("message")), Name.of("n"))
                        .rows()
                        .get(0)
                        .measured());
    }

    @Test
    void severalFieldsAreCountedTogether() throws IOException {
        write(
                Lines.event(1, "a")
                        .service("deck")
                        .fields(f -> f.put("lane", "A3").put("n", 1)),
                Lines.event(2, "a")
                        .service("deck")
                        .fields(f -> f.put("lane", "B1").put("n", 1)),
                Lines.event(3, "a")
                        .service("deck")
                        .fields(f -> f.put("lane", "A3").put("n", 1)));

        assertEquals("deck,A3,1:2 deck,B1,1:1", rows(tally("service", "lane", "n")));
    }

    @Test
    void thinnedEventsCountForAsManyAsTheyStandFor() throws IOException {
        write(
                Lines.event(1, "heartbeat").weight(20),
                Lines.event(2, "heartbeat").weight(20),
                Lines.event(3, "other"));
        Tally tally = tally("message");

        assertEquals("heartbeat:40 other:1", rows(tally));
        assertTrue(tally.all().isEstimate());
        assertEquals(3, tally.all().kept());
        assertEquals(41, tally.all().count());
    }

    @Test
    void everyAttributeAndKindOfValueHasAText() throws IOException {
        write(Lines.event(1, "m", 5, 4)
                .service("s")
                .fields(f -> f.put("d", Duration.ofMillis(1_500))
                        .put("l", List.of("a", 1))
                        .put("nothing", (String) null)));

        assertEquals(
                "info,m,1.5s,[a, 1],2026-05-15T06:00:00.001Z:1", rows(tally("level", "message", "d", "l", "time")));
        assertEquals("0000000000000005,0000000000000004:1", rows(tally("span", "parent")));
        assertNull(tally("nothing").rows().get(0).values().get(0));
        assertFalse(tally("failure.type").all().isEstimate());
    }

    @Test
    void onlyEventsThatMeetTheConditionCount() throws IOException {
        write(Lines.event(1, "a"), Lines.event(2, "b"));

        assertEquals(
                "b:1",
                rows(Tally.of(
                        Logs.at(List.of(folder)).where(Condition.parse("message = b")), List.of(Name.of("message")))));
    }

    @Test
    void soManyDifferentValuesThatTheyWouldFillTheMemoryAreCountedTogether() throws IOException {
        int more = 10;
        Draft[] events = IntStream.range(0, Tally.MOST_ROWS + more)
                .mapToObj(i -> Lines.event(i, "m" + i))
                .toArray(Draft[]::new);
        Lines.write(folder.resolve("a.jsonl"), events);
        Tally tally = tally("message");

        assertEquals(Tally.OTHERS, tally.rows().get(0).values().get(0));
        assertEquals(more, tally.rows().get(0).events().count());
    }

    private void write(Draft... events) throws IOException {
        Lines.write(folder.resolve("a.jsonl"), events);
    }

    private Tally tally(String... names) throws IOException {
        return Tally.of(
                Logs.at(List.of(folder)), Arrays.stream(names).map(Name::of).toList());
    }

    private static String rows(Tally tally) {
        return tally.rows().stream()
                .map(row -> String.join(
                                ",", row.values().stream().map(String::valueOf).toList()) + ":"
                        + row.events().count())
                .collect(Collectors.joining(" "));
    }
}
