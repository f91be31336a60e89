package dev.graphema.query.contract;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.answer.FieldCatalogue;
import dev.graphema.query.answer.FieldValues;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** Failures by kind, differences, and names of fields. */
public interface FailuresContract extends SourceUnderTest {
    @Test
    default void failuresAreGroupedByKind() throws IOException {
        Failure lane = Failure.of(new IOException("lane"));
        Failure bank = Failure.of(new IllegalStateException("bank"));
        FailureKinds kinds = answer(
                Question.all().ask(new Ask.Failures(4)),
                Samples.event(0, "a").failure(lane).instance("deck-1"),
                Samples.event(100, "b").failure(lane).service("deck"),
                Samples.event(50, "c").failure(bank),
                Samples.event(60, "none"));
        FailureKinds.Kind first = kinds.kinds().get(0);
        assertEquals(2, kinds.kinds().size());
        assertEquals(lane.fingerprint(), first.fingerprint());
        assertEquals(2, first.count());
        assertEquals(Samples.START, first.first());
        assertEquals(Samples.START + 100_000_000, first.last());
        assertEquals(Set.of("deck-1", "deck"), first.where());
        assertEquals(List.of(1L, 0L, 0L, 1L), first.course());
        assertEquals("b", first.example().message());
    }

    @Test
    default void differencesAreNewGoneMoreOrLess() throws IOException {
        Draft[] events = IntStream.range(0, 400)
                .mapToObj(i -> Samples.event(i, i % 10 == 0 ? "refused" : "request")
                        .service(i < 200 ? "deck" : "gate")
                        .fields(f -> f.put("lane", i < 200 ? "A3" : i % 4 == 0 ? "A3" : "B1")))
                .toArray(Draft[]::new);
        Differences found =
                answer(Question.where("service = gate").contrastWith(Question.where("service = deck")), events);
        assertEquals(200, found.others());
        assertEquals(200, found.events());
        Differences.Difference gone = found.differences().stream()
                .filter(each -> each.condition().equals("service = deck"))
                .findFirst()
                .orElseThrow();
        assertEquals(Differences.Kind.GONE, gone.kind());
        assertTrue(found.differences().stream()
                .anyMatch(each -> each.condition().equals("lane = B1") && each.kind() == Differences.Kind.NEW));
        assertTrue(
                found.differences().stream().noneMatch(each -> each.condition().startsWith("message")));
    }

    @Test
    default void shapesOfMessagesAreCompared() throws IOException {
        Draft[] events = IntStream.range(0, 400)
                .mapToObj(i -> Samples.event(i, (i < 200 ? "lane after " : "gate after ") + i + " ms")
                        .service(i < 200 ? "deck" : "gate"))
                .toArray(Draft[]::new);
        Differences found =
                answer(Question.where("service = gate").contrastWith(Question.where("service = deck")), events);
        assertTrue(found.toString().contains("message.shape = \"gate after <number> ms\""), () -> found.toString());
        assertTrue(found.tooManyValues().contains("message"), "they are all different");
    }

    @Test
    default void theCatalogueNamesAllFields() throws IOException {
        FieldCatalogue catalogue = answer(
                Question.all().catalogue(),
                Samples.event(1, "a").fields(f -> f.put("lane", "A3").put("wait", Duration.ofMillis(3))),
                Samples.event(2, "b").fields(f -> f.put("ship", java.util.Map.of("name", "Skerry"))));
        assertEquals(2, catalogue.events());
        assertEquals(Set.of("lane", "wait", "ship", "ship.name"), catalogue.fields());
        assertEquals(Set.of("wait"), catalogue.durations());
        assertEquals(Samples.START + 1_000_000, catalogue.first());
        assertEquals(Samples.START + 2_000_000, catalogue.last());
    }

    @Test
    default void theValuesOfAllNamesAreCounted() throws IOException {
        Draft[] events = {
            Samples.event(1, "a").fields(f -> f.put("lane", "A3").put("lanes", List.of("A3", "B1"))),
            Samples.event(2, "a")
                    .fields(f ->
                            f.put("ship", java.util.Map.of("name", "Skerry A3")).put("n", 7)),
        };
        FieldValues all = answer(Question.all().values(), events);
        assertEquals(
                new FieldValues.OfName("message", 2, 1, List.of(new FieldValues.Value("a", 2))),
                all.names().stream()
                        .filter(each -> each.name().equals("message"))
                        .findFirst()
                        .orElseThrow());
        FieldValues holding = answer(Question.all().ask(new Ask.Values("a3", 1)), events);
        assertEquals(
                List.of("lane 1 1 A3", "lanes 1 1 A3", "ship.name 1 1 Skerry A3"),
                holding.names().stream()
                        .map(each -> each.name() + " " + each.events() + " " + each.distinct() + " "
                                + each.values().get(0).text())
                        .toList());
    }
}
