package dev.graphema.query.contract;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Events, their order, and their context. */
public interface EventsContract extends SourceUnderTest {
    @Test
    default void theNewestAndOldestAreFoundInTheOrderOfTime() throws IOException {
        FoundEvents newest = answer(Question.all().newest(2), shuffled(10));
        assertEquals(List.of("m8", "m9"), messages(newest.events()));
        assertEquals(10, newest.matching());
        assertEquals(10, newest.coverage().events());
        FoundEvents oldest = answer(Question.where("message != m0").oldest(2), shuffled(10));
        assertEquals(List.of("m1", "m2"), messages(oldest.events()));
        assertEquals(9, oldest.matching());
        assertEquals(List.of(), answer(Question.all().newest(0), shuffled(10)).events());
    }

    @Test
    default void eventsOfTheSameTimeKeepTheOrderOfTheSource() throws IOException {
        Draft[] events = IntStream.range(0, 2_000)
                .mapToObj(i -> Samples.event(0, "m" + i))
                .toArray(Draft[]::new);
        assertEquals(
                List.of("m1998", "m1999"),
                messages(answer(Question.all().newest(2), events).events()));
        assertEquals(
                List.of("m0", "m1"),
                messages(answer(Question.all().oldest(2), events).events()));
    }

    @Test
    default void aWindowContainsItsFirstAndLastNanosecond() throws IOException {
        Window window = new Window(Samples.START + 2_000_000, Samples.START + 4_000_000);
        assertEquals(
                List.of("m2", "m3", "m4"),
                messages(answer(Question.all().during(window).newest(10), shuffled(10))
                        .events()));
    }

    @Test
    default void foundEventsHaveOnlyTheAskedValues() throws IOException {
        Draft event = Samples.event(1, "m", 5, 4)
                .service("deck")
                .fields(f -> f.put("lane", "A3").put("n", 1));
        Event found = answer(Question.where("n = 1").fields("message", "lane").newest(1), event)
                .events()
                .get(0);
        assertEquals("m", found.message());
        assertEquals("A3", found.fields().get("lane"));
        assertNull(found.fields().get("n"));
        assertNull(found.service());
        assertNull(found.trace());
    }

    @Test
    default void anEventKeepsAllItsValues() throws IOException {
        Draft event = Samples.event(1, "m", 5, 4)
                .service("deck")
                .instance("deck-2")
                .thread("t")
                .sequence(7)
                .weight(3)
                .fields(f -> f.put("lane", "A3"));
        String expected = Samples.text(event);
        assertEquals(
                expected,
                Samples.text(answer(Question.all().newest(1), event).events().get(0)));
    }

    @Test
    default void allEventsAreReadInTheOrderOfTimeUntilEnough() throws IOException {
        List<String> all = new ArrayList<>();
        QueryExecutor.read(
                Question.where("message != m3"),
                source(Stream.of(shuffled(10)).map(Draft::finish).toList()),
                Control.NONE,
                event -> all.add(event.message()) && all.size() < 5);
        assertEquals(List.of("m0", "m1", "m2", "m4", "m5"), all);
    }

    @Test
    default void theContextOfAnEventIsThatOfTheFirstMatchingOne() throws IOException {
        EventContext context =
                answer(Question.where("message != m4").contextOf("message in (m5, m7)", 2), shuffled(10));
        assertEquals("m5", context.event().message());
        assertEquals(List.of("m2", "m3"), messages(context.before()));
        assertEquals(List.of("m6", "m7"), messages(context.after()));
        EventContext none = answer(Question.all().contextOf("message = none", 2), shuffled(10));
        assertNull(none.event());
        assertEquals(10, none.coverage().events());
    }

    @Test
    default void theContextIsExactAmongEventsOfTheSameTime() throws IOException {
        Draft[] events =
                IntStream.range(0, 20).mapToObj(i -> Samples.event(0, "m" + i)).toArray(Draft[]::new);
        EventContext context = answer(Question.all().contextOf("message = m10", 1), events);
        assertEquals(List.of("m9"), messages(context.before()));
        assertEquals(List.of("m11"), messages(context.after()));
    }

    @Test
    default void readingCanBeStopped() throws IOException {
        Draft[] events = IntStream.range(0, 40_000)
                .mapToObj(i -> Samples.event(i, "m" + i).fields(f -> f.put("text", "x".repeat(200))))
                .toArray(Draft[]::new);
        FoundEvents found = QueryExecutor.answer(
                Question.all().newest(1),
                source(Stream.of(events).map(Draft::finish).toList()),
                progress -> false);
        assertTrue(found.coverage().isStopped());
        assertTrue(found.coverage().events() < events.length, found.coverage().toString());
    }

    private static List<String> messages(List<Event> events) {
        return events.stream().map(Event::message).toList();
    }

    private static Draft[] shuffled(int count) {
        List<Draft> events = new ArrayList<>(IntStream.range(0, count)
                .mapToObj(i -> Samples.event(i, "m" + i))
                .toList());
        Collections.shuffle(events, new Random(5));
        return events.toArray(Draft[]::new);
    }
}
