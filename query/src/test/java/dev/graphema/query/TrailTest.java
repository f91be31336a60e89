package dev.graphema.query;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class TrailTest {
    @TempDir
    private Path folder;

    @Test
    void oneTraceIsGatheredFromAllFilesAndNested() throws IOException {
        Lines.write(
                folder.resolve("booking.jsonl"),
                Lines.event(1, "asked", 1, 0).service("booking"),
                Lines.event(5, "noise"),
                ended(9, "call", 2, 1, 7).service("booking"),
                ended(10, "request", 1, 0, 10).service("booking"));
        Lines.write(
                folder.resolve("deck.jsonl"),
                Lines.event(4, "other", 7, 0).trace(new TraceId(1, 1), new SpanId(7), null),
                ended(8, "request", 3, 2, 5)
                        .service("deck")
                        .fields(f -> f.put("outcome", "failure"))
                        .failure(Failure.of(new IOException("lane"))));
        Trail trail = single();

        assertEquals(
                "asked, request, call, request",
                trail.events().stream().map(Event::message).collect(Collectors.joining(", ")));
        assertEquals("request(call(request))", nested(trail.roots()));
        assertEquals(Set.of("booking", "deck"), trail.services());
        assertEquals(Lines.START, trail.start());
        assertEquals(Lines.START + 10_000_000, trail.end());
        assertEquals("lane", trail.firstFailure().orElseThrow().failure().message());
        Trail.Span call = trail.roots().get(0).children().get(0);
        assertEquals(Duration.ofMillis(7), call.elapsed());
        assertEquals(Lines.START + 2_000_000, call.start());
        assertFalse(call.failed());
        assertTrue(call.children().get(0).failed());
        assertEquals("lane", call.children().get(0).failure().message());
    }

    @Test
    void operationsWithoutAnEndAndWithoutAParentAreShownAllTheSame() throws IOException {
        Lines.write(folder.resolve("a.jsonl"), Lines.event(1, "said inside", 5, 4), ended(3, "orphan", 6, 99, 1));
        Trail trail = single();

        assertEquals("null,orphan", nested(trail.roots()));
        assertNull(trail.roots().get(0).elapsed());
        assertEquals("said inside", trail.roots().get(0).any().message());
    }

    @Test
    void spansThatClaimToBeInOneAnotherDoNotHangTheReader() throws IOException {
        Lines.write(
                folder.resolve("a.jsonl"), ended(1, "a", 1, 2, 1), ended(2, "b", 2, 1, 1), ended(3, "self", 3, 3, 1));

        assertEquals("a,b,self", nested(single().roots()));
    }

    @Test
    void tooFewDigitsFindSeveralAndWrongOnesNone() throws IOException {
        Lines.write(
                folder.resolve("a.jsonl"),
                Lines.event(1, "a", 1, 0),
                Lines.event(2, "b").trace(TraceId.parse("4bf9" + "0".repeat(27) + "1"), new SpanId(1), null));

        assertEquals(2, find("4bf9").trails().size());
        assertEquals(1, find("4bf92").trails().size());
        assertEquals(0, find("ffff").trails().size());
        assertEquals(2, find("ffff").reading().events());
    }

    private Trail single() throws IOException {
        List<Trail> trails = find(Lines.TRACE.toString()).trails();
        assertEquals(1, trails.size());
        return trails.get(0);
    }

    private Trail.Found find(String digits) throws IOException {
        return Trail.find(Logs.at(List.of(folder)), digits);
    }

    private static Draft ended(long millis, String message, long span, long parent, long elapsed) {
        return Lines.event(millis, message, span, parent)
                .fields(f -> f.put("elapsed", Duration.ofMillis(elapsed)).put("outcome", "success"));
    }

    private static String nested(List<Trail.Span> spans) {
        return spans.stream()
                .map(span -> span.name() + (span.children().isEmpty() ? "" : "(" + nested(span.children()) + ")"))
                .collect(Collectors.joining(","));
    }
}
