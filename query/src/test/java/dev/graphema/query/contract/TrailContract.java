package dev.graphema.query.contract;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Trail;
import dev.graphema.query.answer.Trails;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;

/** Trails of requests. */
public interface TrailContract extends SourceUnderTest {
    @Test
    default void oneTraceIsCollectedAndNested() throws IOException {
        Trail trail = single(
                Samples.event(1, "asked", 1, 0).service("booking"),
                Samples.event(5, "noise"),
                ended(9, "call", 2, 1, 7).service("booking"),
                ended(10, "request", 1, 0, 10).service("booking"),
                Samples.event(4, "other", 7, 0).trace(new TraceId(1, 1), new SpanId(7), null),
                ended(8, "request", 3, 2, 5)
                        .service("deck")
                        .fields(f -> f.put("outcome", "failure"))
                        .failure(Failure.of(new IOException("lane"))));

        assertEquals(
                "asked, request, call, request",
                trail.events().stream().map(Event::message).collect(Collectors.joining(", ")));
        assertEquals("request(call(request))", nested(trail.roots()));
        assertEquals(Set.of("booking", "deck"), trail.services());
        assertEquals(Samples.START, trail.start());
        assertEquals(Samples.START + 10_000_000, trail.end());
        assertEquals("lane", trail.firstFailure().orElseThrow().failure().message());
        Trail.Span call = trail.roots().get(0).children().get(0);
        assertEquals(Duration.ofMillis(7), call.elapsed());
        assertEquals(Samples.START + 2_000_000, call.start());
        assertFalse(call.failed());
        assertTrue(call.children().get(0).failed());
        assertEquals("lane", call.children().get(0).failure().message());
    }

    @Test
    default void operationsWithoutAnEndOrParentAreShown() throws IOException {
        Trail trail = single(Samples.event(1, "inside", 5, 4), ended(3, "orphan", 6, 99, 1));

        assertEquals("null,orphan", nested(trail.roots()));
        assertNull(trail.roots().get(0).elapsed());
        assertEquals("inside", trail.roots().get(0).any().message());
    }

    @Test
    default void spansWithinEachOtherEnd() throws IOException {
        Trail trail = single(ended(1, "a", 1, 2, 1), ended(2, "b", 2, 1, 1), ended(3, "self", 3, 3, 1));

        assertEquals("a,b,self", nested(trail.roots()));
    }

    @Test
    default void tooFewDigitsFindSeveralAndWrongOnesNone() throws IOException {
        Draft[] events = {
            Samples.event(1, "a", 1, 0),
            Samples.event(2, "b").trace(TraceId.parse("4bf9" + "0".repeat(27) + "1"), new SpanId(1), null)
        };

        assertEquals(2, answer(Question.all().trail("4bf9"), events).trails().size());
        assertEquals(1, answer(Question.all().trail("4bf92"), events).trails().size());
        assertEquals(0, answer(Question.all().trail("ffff"), events).trails().size());
        assertEquals(2, answer(Question.all().trail("ffff"), events).coverage().events());
    }

    @Test
    default void aValueBringsTheWholeTracesItIsIn() throws IOException {
        Trails found = answer(
                Question.all().trail("booking", "B1"),
                Samples.event(1, "asked", 1, 0).fields(f -> f.put("booking", "B1")),
                Samples.event(2, "waited", 2, 1),
                Samples.event(3, "alone").fields(f -> f.put("booking", "B1")),
                Samples.event(4, "other").fields(f -> f.put("booking", "B2")));
        assertEquals(
                List.of("asked", "waited", "alone"),
                found.trails().get(0).events().stream().map(Event::message).toList());
        assertEquals(
                List.of(),
                answer(Question.all().trail("booking", "B3"), Samples.event(1, "a"))
                        .trails());
    }

    private Trail single(Draft... events) throws IOException {
        List<Trail> trails =
                answer(Question.all().trail(Samples.TRACE.toString()), events).trails();
        assertEquals(1, trails.size());
        return trails.get(0);
    }

    private static Draft ended(long millis, String message, long span, long parent, long elapsed) {
        return Samples.event(millis, message, span, parent)
                .fields(f -> f.put("elapsed", Duration.ofMillis(elapsed)).put("outcome", "success"));
    }

    private static String nested(List<Trail.Span> spans) {
        return spans.stream()
                .map(span -> span.name() + (span.children().isEmpty() ? "" : "(" + nested(span.children()) + ")"))
                .collect(Collectors.joining(","));
    }
}
