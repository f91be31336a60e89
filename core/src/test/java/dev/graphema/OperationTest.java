package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertInstanceOf;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

class OperationTest {
    private final TestRuntime runtime = TestRuntime.start();
    private final Logger log = runtime.logger("skerry.deck");

    @AfterEach
    void end() {
        runtime.close();
    }

    @Test
    void theEndReportsFieldsDurationAndOutcome() {
        try (Operation operation = log.operation("reserve lanes")) {
            operation.put("lane", "A3").group("deck", g -> g.put("plan", 3));
            operation.succeed();
        }
        Event event = runtime.single();

        assertEquals("reserve lanes", event.message());
        assertEquals(Level.INFO, event.level());
        assertEquals("success", event.fields().get("outcome"));
        assertEquals(3L, event.fields().get("deck.plan"));
        assertInstanceOf(Duration.class, event.fields().get("elapsed"));
    }

    @Test
    void eventsAndOperationsInsideBelongToIt() {
        try (Operation outer = log.operation("outer")) {
            log.info("inside");
            try (Operation inner = log.operation("inner")) {
                inner.succeed();
            }
            outer.succeed();
        }
        List<Event> events = runtime.events();
        Event inside = events.get(0);
        Event inner = events.get(1);
        Event outer = events.get(2);

        assertEquals(outer.span(), inside.span());
        assertEquals(outer.span(), inner.parent());
        assertNull(outer.parent());
        assertEquals(1, events.stream().map(Event::trace).distinct().count());
        assertSame(Correlation.NONE, Correlation.current());
    }

    @Test
    void withoutSuccessTheOutcomeIsFailure() {
        log.operation("forgotten").close();

        assertEquals("failure", runtime.single().fields().get("outcome"));
        assertEquals(Level.ERROR, runtime.single().level());
    }

    @Test
    void aFailureIsRecordedOnceThoughItPassesThroughSeveral() {
        IOException problem = new IOException("reset");
        IllegalStateException wrapped = new IllegalStateException("refused", problem);

        IllegalStateException thrown = assertThrows(
                IllegalStateException.class,
                () -> log.measure("outer", () -> {
                    try {
                        return log.measure("inner", () -> {
                            throw problem;
                        });
                    } catch (IOException e) {
                        throw wrapped;
                    }
                }));
        List<Event> events = runtime.events();

        assertSame(wrapped, thrown);
        assertEquals(
                List.of("inner", "outer"), events.stream().map(Event::message).toList());
        assertEquals("reset", events.get(0).failure().message());
        assertEquals(Level.ERROR, events.get(0).level());
        assertNull(events.get(1).failure());
        assertEquals("failure", events.get(1).fields().get("outcome"));
        assertEquals(Level.WARN, events.get(1).level());
    }

    @Test
    void measureReturnsTheResultOrThrowsWhatTheWorkThrows() throws IOException {
        assertEquals(7, log.measure("count", () -> 7).intValue());
        boolean[] done = {false};
        log.measure("act", () -> {
            done[0] = true;
        });

        assertEquals(true, done[0]);
        assertThrows(
                IOException.class,
                () -> log.measure("fail", () -> {
                    throw new IOException("gone");
                }));
        assertThrows(
                StackOverflowError.class,
                () -> log.measure("fail hard", () -> {
                    throw new StackOverflowError();
                }));
        assertEquals(4, runtime.events().size());
    }

    @Test
    void measuredWorkAddsFieldsAndItsExceptionIsRecorded() {
        assertEquals("A3", log.<String, RuntimeException>measure("reserve", op -> {
            op.put("lane", "A3").put("places", 2).group("deck", g -> g.put("plan", 7));
            return "A3";
        }));
        assertThrows(
                IOException.class,
                () -> log.perform("write plan", op -> {
                    op.put("lane", "B2");
                    throw new IOException("full");
                }));
        log.perform("refuse", op -> op.fail(null));

        List<Event> events = runtime.events();
        assertEquals("A3", events.get(0).fields().get("lane"));
        assertEquals(7L, events.get(0).fields().get("deck.plan"));
        assertEquals("success", events.get(0).fields().get("outcome"));
        assertEquals("java.io.IOException", events.get(1).failure().type());
        assertEquals("B2", events.get(1).fields().get("lane"));
        assertEquals("failure", events.get(2).fields().get("outcome"), "the work decided");
    }

    @Test
    void catchBlocksWithinMeasuredWorkBelongToIt() {
        log.perform(
                "reserve",
                op -> Context.with(f -> f.put("booking", "B7"), () -> {
                    try {
                        throw new IllegalStateException("taken");
                    } catch (IllegalStateException e) {
                        log.warn("lane taken", e);
                    }
                }));

        List<Event> events = runtime.events();
        assertEquals("B7", events.get(0).fields().get("booking"));
        assertEquals(events.get(1).span(), events.get(0).span());
        assertEquals(List.of(), Context.openScopes());
    }

    @Test
    void contextOfWorkEndsWithItAndPassesOnItsResultOrException() throws IOException {
        int places = Context.with(f -> f.put("booking", "B7"), () -> 3);
        assertEquals(3, places);
        assertThrows(
                IOException.class,
                () -> Context.with(f -> f.put("booking", "B8"), () -> {
                    throw new IOException("full");
                }));
        assertEquals(List.of(), Context.openScopes());
    }

    @Test
    void anOperationEndsWithTheStageThatItsWorkReturns() {
        CompletableFuture<String> lane = new CompletableFuture<>();
        CompletableFuture<String> broken = new CompletableFuture<>();
        try (Scope scope = runtime.graphema().begin()) {
            assertSame(lane, log.measure("reserve", () -> lane));
            assertSame(broken, log.measure("release", op -> broken));
        }
        assertEquals(0, runtime.events().size(), "they have not ended");

        lane.complete("A3");
        broken.completeExceptionally(new CompletionException(new IOException("gone")));

        List<Event> events = runtime.events();
        assertEquals("success", events.get(0).fields().get("outcome"));
        assertEquals("java.io.IOException", events.get(1).failure().type());
        assertEquals(events.get(0).trace(), events.get(1).trace());
    }

    @Test
    void aRefusedOperationIsNoSpanOfItsOwnButItsFailureIsReported() {
        try (Operation outer = log.operation("outer")) {
            try (Operation refused = log.operation(Level.DEBUG, "refused")) {
                log.info("inside");
                refused.succeed();
            }
            try (Operation failing = log.operation(Level.DEBUG, "failing")) {
                failing.fail(new IOException("gone"));
            }
            outer.succeed();
        }
        List<Event> events = runtime.events();

        assertEquals(
                List.of("inside", "failing", "outer"),
                events.stream().map(Event::message).toList());
        assertEquals(1, events.stream().map(Event::span).distinct().count());
        assertNotNull(events.get(1).failure());
    }

    @Test
    void onThatGoesOnWithACallersTraceIsAPartOfTheCallersSpan() {
        String header = "00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01";
        try (Operation operation = log.operation("request", Map.of("traceparent", header)::get)) {
            operation.succeed();
        }

        assertEquals(
                "4bf92f3577b34da6a3ce929d0e0e4736", runtime.single().trace().toString());
        assertEquals("00f067aa0ba902b7", runtime.single().parent().toString());
    }

    @Test
    void closingTwiceReportsOnce() {
        Operation operation = log.operation("once");
        operation.succeed();
        operation.close();
        operation.close();
        operation.put("late", true);

        assertEquals(false, runtime.single().fields().has("late"));
    }

    @Test
    void codeBelowCanPutFieldsIntoTheOperationAroundIt() {
        assertSame(Operation.NONE, Operation.current());
        try (Operation operation = log.operation("request")) {
            try (Scope scope = Context.open(f -> f.put("x", 1))) {
                Operation.current().put("booking", "B0047113");
            }
            operation.succeed();
        }

        assertEquals("B0047113", runtime.single().fields().get("booking"));
    }

    @Test
    void aDetachedOperationIsEndedByAnotherThreadWithTheContextItLeft() throws InterruptedException {
        Operation operation;
        try (Scope scope = Context.open(f -> f.put("booking", "B0047113"))) {
            operation = log.operation("request").detach();
        }
        assertSame(Correlation.NONE, Correlation.current());
        Thread other = new Thread(() -> {
            operation.put("status", 200).put("late", true);
            operation.succeed();
            operation.close();
        });
        other.start();
        other.join();

        assertEquals("B0047113", runtime.single().fields().get("booking"));
        assertEquals(200L, runtime.single().fields().get("status"));
        assertEquals(operation.correlation().span(), runtime.single().span());
    }

    @Test
    void anOperationThatIsNeverEndedIsReportedWhenTheRuntimeEnds() throws InterruptedException {
        List<Object> output = List.of();
        // Reports of one kind become ever rarer in a process, so one of several is waited for.
        while (output.isEmpty()) {
            try (TestRuntime shared = TestRuntime.shared()) {
                Thread thread = new Thread(() -> Logger.named("skerry.gate").operation("forgotten"));
                thread.start();
                thread.join();
                shared.graphema().close();
                output = shared.written().stream()
                        .filter(event -> event.message().equals("operation never ended"))
                        .map(event -> event.fields().get("what"))
                        .toList();
            }
        }
        assertEquals(List.of("forgotten of skerry.gate"), output);
    }

    @Test
    void enteringAndLeavingIsReportedAtTraceAndNothingOtherwise() {
        assertSame(Operation.NONE, log.enter("reserve"));
        try (TestRuntime tracing = TestRuntime.start(settings -> settings.level(Level.TRACE));
                Operation operation = tracing.logger("skerry").enter("reserve")) {
            operation.succeed();
            operation.close();
            List<Event> events = tracing.events();

            assertEquals(
                    List.of("enter", "reserve"),
                    events.stream().map(Event::message).toList());
            assertEquals("reserve", events.get(0).fields().get("method"));
            assertEquals(
                    List.of(Level.TRACE, Level.TRACE),
                    events.stream().map(Event::level).toList());
        }
    }

    @Test
    void theAbsentOperationAcceptsEverythingAndEmitsNothing() {
        Operation.NONE.put("x", 1).group("g", g -> g.put("y", 2));
        Operation.NONE.succeed();
        Operation.NONE.detach().close();

        assertEquals(List.of(), runtime.events());
    }
}
