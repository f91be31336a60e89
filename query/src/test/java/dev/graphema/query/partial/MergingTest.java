package dev.graphema.query.partial;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.mockito.Mockito.mock;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.query.Ask;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventRows;
import dev.graphema.trace.TraceId;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * However events are divided into parts, in any order of merging, and whether they are moved to another process
 * meanwhile, the answer is that of one pass.
 */
class MergingTest {
    private static final int EVENTS = 2_000;
    private static final int DIVISIONS = 25;

    static Stream<Arguments> aggregations() {
        Name lane = Name.of("lane");
        return Stream.of(
                Arguments.of("newest", Aggregation.of(new Ask.Events(Ask.Order.NEWEST, 50), List.of())),
                Arguments.of("oldest", Aggregation.of(new Ask.Events(Ask.Order.OLDEST, 50), List.of(lane))),
                Arguments.of("counts", Aggregation.of(new Ask.Counts(List.of(Name.of("service"), lane), null))),
                Arguments.of("numbers", Aggregation.of(new Ask.Counts(List.of(lane), Name.of("n")))),
                Arguments.of("durations", Aggregation.of(new Ask.Counts(List.of(lane), Name.of("waited")))),
                Arguments.of("timeline", Aggregation.of(Ask.TimeSteps.most(20).by(lane, 3))),
                Arguments.of("steps", Aggregation.of(Ask.TimeSteps.of(Duration.ofSeconds(7)))),
                Arguments.of(
                        "map",
                        Aggregation.of(new Ask.TimeCells(20, null, null, List.of(Name.of("service"), lane), 50))),
                Arguments.of("steps of all", Aggregation.of(new Ask.TimeCells(90, null, null, List.of(), 0))),
                Arguments.of("failures", Aggregation.of(new Ask.Failures(10))),
                Arguments.of("differences", Aggregation.ofSide(false)),
                Arguments.of("values", Aggregation.of(new Ask.Values(null, 5))),
                Arguments.of("first", Aggregation.of(new Ask.Events(Ask.Order.FIRST, 50), List.of())),
                Arguments.of("fields", Aggregation.of(new Ask.Fields())));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("aggregations")
    <A extends Answer> void theAnswerDoesNotDependOnTheParts(String name, Aggregation<A> aggregation)
            throws IOException {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        List<Event> events =
                IntStream.range(0, EVENTS).mapToObj(i -> event(i, random)).toList();
        String expected = text(part(events, IntStream.range(0, EVENTS).boxed().toList(), aggregation));
        Map<String, Event> byLine = new HashMap<>();
        for (Event event : events) {
            byLine.put(Samples.text(event).strip(), event);
            Event projected = Projection.of(List.of(Name.of("lane"))).project(event);
            byLine.put(Samples.text(projected).strip(), projected);
        }
        for (int i = 0; i < DIVISIONS; i++) {
            assertEquals(expected, text(merged(events, byLine, aggregation, random)), "seed " + seed);
        }
    }

    @Test
    void partsOfAnotherKindAreNotMoved() {
        assertNull(PartialTransfer.request(mock(Partial.class), Condition.EVERYTHING, Window.ALWAYS));
    }

    private static Event event(int i, Random random) {
        Failure[] failures = {
            Failure.of(new IllegalStateException("bank")), Failure.of(new IllegalArgumentException("lane"))
        };
        return Samples.event(random.nextInt(100_000), "m" + random.nextInt(5))
                .service(random.nextBoolean() ? "deck" : "gate")
                .weight(random.nextInt(4) == 0 ? 10 : 1)
                .trace(random.nextInt(3) == 0 ? null : new TraceId(random.nextInt(50), 1), null, null)
                .failure(random.nextInt(5) == 0 ? failures[random.nextInt(2)] : null)
                .fields(f -> f.put("lane", "L" + random.nextInt(7))
                        .put("n", random.nextInt(300))
                        .put("waited", Duration.ofMillis(random.nextInt(900))))
                .finish();
    }

    /** Divides the events into random parts, and merges random pairs of these until one is left. */
    private static <A extends Answer> Partial<A> merged(
            List<Event> events, Map<String, Event> byLine, Aggregation<A> aggregation, Random random)
            throws IOException {
        int count = 1 + random.nextInt(12);
        List<List<Integer>> indexes = new ArrayList<>();
        IntStream.range(0, count).forEach(i -> indexes.add(new ArrayList<>()));
        IntStream.range(0, events.size())
                .forEach(i -> indexes.get(random.nextInt(count)).add(i));
        List<Partial<A>> parts = new ArrayList<>();
        for (List<Integer> each : indexes) {
            Collections.shuffle(each, random);
            parts.add(part(events, each, aggregation));
        }
        while (parts.size() > 1) {
            Partial<A> one = parts.remove(random.nextInt(parts.size()));
            Partial<A> other = parts.remove(random.nextInt(parts.size()));
            parts.add(random.nextBoolean() ? one.merge(other) : moved(other, one, byLine));
        }
        return parts.get(0);
    }

    /** Moves a part as to another process, and merges it there. */
    private static <A extends Answer> Partial<A> moved(Partial<A> from, Partial<A> to, Map<String, Event> byLine)
            throws IOException {
        ByteArrayOutputStream state = new ByteArrayOutputStream();
        Coverage read = new CoverageBuilder(Control.NONE).coverage();
        PartialTransfer.write(from, () -> read, state);
        Coverage coverage = PartialTransfer.merge(
                new ByteArrayInputStream(state.toByteArray()), to, (line, place) -> byLine.get(line));
        assertEquals(read, coverage);
        return to;
    }

    private static <A extends Answer> Partial<A> part(
            List<Event> events, List<Integer> indexes, Aggregation<A> aggregation) throws IOException {
        Partial<A> part = aggregation.start().get();
        EventRows rows = new EventRows(
                indexes.stream().map(events::get).iterator(),
                0,
                aggregation.projection(),
                new CoverageBuilder(Control.NONE));
        for (int index : indexes) {
            rows.advance();
            part.add(rows, index);
        }
        return part;
    }

    private static String text(Partial<?> part) {
        Coverage none = new CoverageBuilder(Control.NONE).coverage();
        Answer answer = part.answer(() -> none);
        String all = answer instanceof CountTable counts ? counts.all().toString() : "";
        return all + AnswerJson.rows(answer).toList();
    }
}
