package dev.graphema.pipeline;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.redaction.PaymentCards;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.sink.MemorySink;
import dev.graphema.sink.Route;
import dev.graphema.sink.Sink;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import org.junit.jupiter.api.Test;

class PipelineTest {
    private static final Duration LONG = Duration.ofMinutes(2);

    private final MemorySink one = new MemorySink();
    private final MemorySink two = new MemorySink();
    private final List<String> reports = new CopyOnWriteArrayList<>();

    @Test
    void anEventGoesToASinkOnceHoweverManyRoutesLeadThere() {
        Pipeline pipeline = both().route(new Route(Condition.parse("level >= warn"), List.of("one", "two")))
                .route(new Route(Condition.parse("message = b"), List.of("two")))
                .start();
        pipeline.accept(event(Level.WARN, "a"));
        pipeline.accept(event(Level.WARN, "b"));
        pipeline.accept(event(Level.INFO, "b"));
        pipeline.accept(event(Level.INFO, "c"));
        assertTrue(pipeline.close(LONG));

        assertEquals(List.of("a", "b"), messages(one));
        assertEquals(List.of("a", "b", "b"), messages(two));
    }

    @Test
    void withoutRoutesEverySinkGetsWhatPassesItsThreshold() {
        Pipeline pipeline = Pipeline.builder()
                .sink("one", one, Level.TRACE)
                .sink("two", two, Level.ERROR)
                .start();
        pipeline.accept(event(Level.DEBUG, "a"));
        pipeline.accept(event(Level.ERROR, "b"));
        pipeline.close(LONG);

        assertEquals(List.of("a", "b"), messages(one));
        assertEquals(List.of("b"), messages(two));
    }

    @Test
    void acceptedEventsAreNumberedWithoutGapsAndNamed() {
        Pipeline pipeline = both().service("deck").instance("deck-2").start();
        pipeline.accept(event(Level.INFO, "a"));
        pipeline.accept(event(Level.INFO, "b"));
        pipeline.close(LONG);

        assertEquals(List.of(1L, 2L), one.events().stream().map(Event::sequence).toList());
        assertEquals("deck", one.events().get(0).service());
        assertEquals("deck-2", one.events().get(0).instance());
        assertEquals(2, pipeline.accepted());
    }

    @Test
    void whatIsSampledAwayUsesNoNumberAndWhatIsKeptCarriesItsWeight() {
        Sampler sampler = new Sampler(List.of(new SamplingRule(Condition.parse("message = a"), 4, false)), () -> -1);
        Sampler none = new Sampler(List.of(new SamplingRule(Condition.parse("message = a"), 4, false)), () -> 0);
        Pipeline keeping = Pipeline.builder()
                .sampler(sampler)
                .sink("one", one, Level.TRACE)
                .start();
        Pipeline dropping =
                Pipeline.builder().sampler(none).sink("two", two, Level.TRACE).start();
        for (Pipeline pipeline : List.of(keeping, dropping)) {
            pipeline.accept(event(Level.INFO, "a"));
            pipeline.accept(event(Level.INFO, "b"));
            pipeline.close(LONG);
        }

        assertEquals(List.of(4L, 1L), one.events().stream().map(Event::weight).toList());
        assertEquals(List.of(1L), two.events().stream().map(Event::sequence).toList());
    }

    @Test
    void redactionHasHappenedBeforeAcceptReturns() {
        Draft draft = event(Level.INFO, "card 4111111111111111");
        Pipeline pipeline =
                both().redactor(new Redactor(List.of(new PaymentCards()))).start();
        pipeline.accept(draft);

        assertEquals("card [redacted payment-card]", draft.finish().message());
        pipeline.close(LONG);
    }

    @Test
    void flushWaitsUntilEverythingIsWritten() {
        Pipeline pipeline = both().start();
        for (int i = 1; i <= 500; i++) {
            pipeline.accept(event(Level.INFO, "m"));
            if (i % 100 == 0) {
                assertTrue(pipeline.flush(LONG));
                assertEquals(i, one.events().size());
            }
        }
        pipeline.close(LONG);
    }

    @Test
    void afterTheEndEventsAreCountedAndNeverThrown() {
        Pipeline pipeline = both().start();
        pipeline.close(LONG);
        pipeline.accept(event(Level.FATAL, "late"));

        assertTrue(pipeline.close(LONG));
        assertEquals(1, pipeline.late());
        assertEquals(List.of(), one.events());
    }

    @Test
    void aSinkThatBlocksForEverTouchesNoOtherAndDoesNotKeepTheProgramFromEnding() throws InterruptedException {
        CountDownLatch never = new CountDownLatch(1);
        Sink blocked = event -> {
            try {
                never.await();
            } catch (InterruptedException e) {
                throw new IOException(e);
            }
        };
        Pipeline pipeline = Pipeline.builder()
                .reporter(reports::add)
                .queueBytes(64 * 1024)
                .longestWait(Duration.ofMillis(1))
                .sink("blocked", blocked, Level.TRACE)
                .sink("one", one, Level.TRACE)
                .start();
        for (int i = 0; i < 100; i++) {
            pipeline.accept(event(Level.WARN, "m" + i));
            int accepted = i + 1;
            await().atMost(Duration.ofMinutes(2))
                    .pollInterval(Duration.ofMillis(1))
                    .until(() -> one.events().size() == accepted);
        }

        assertFalse(pipeline.flush(Duration.ofMillis(5)));
        assertFalse(pipeline.close(Duration.ofMillis(50)));
        assertEquals(100, one.events().size());
        assertTrue(pipeline.lost().get("blocked").get(Level.WARN) >= 80);
        assertEquals(Map.of(), pipeline.lost().get("one"));
        assertTrue(reports.stream().anyMatch(report -> report.startsWith("sink blocked: did not end in time")));
    }

    @Test
    void anEventThatIsTooLongForTheQueueIsCountedAtOnce() {
        Pipeline pipeline = Pipeline.builder()
                .reporter(reports::add)
                .queueBytes(64 * 1024)
                .longestWait(Duration.ofMinutes(1))
                .sink("one", one, Level.TRACE)
                .start();
        String text = "x".repeat(16_000);
        pipeline.accept(event(Level.WARN, "long").fields(f -> f.put("a", text).put("b", text)));
        pipeline.accept(event(Level.WARN, "short"));
        assertFalse(pipeline.close(LONG));

        // The loss is reported as soon as there is room, so perhaps before the second event is written.
        assertEquals(
                List.of("events lost", "short"),
                one.events().stream().map(Event::message).sorted().toList());
        assertEquals(Map.of(Level.WARN, 1L), pipeline.lost().get("one"));
        assertTrue(reports.get(0).contains("bytes is too long for the queue (at most 16384)"), reports.toString());
    }

    @Test
    void eightThreadsLoseNothingAndEachKeepsItsOrder() throws InterruptedException {
        int threads = 8;
        int each = 5_000;
        Pipeline pipeline = Pipeline.builder()
                .longestWait(Duration.ofMinutes(1))
                .sink("one", one(threads * each), Level.TRACE)
                .start();
        List<Thread> callers = new ArrayList<>();
        for (int t = 0; t < threads; t++) {
            int number = t;
            callers.add(new Thread(() -> {
                for (int i = 0; i < each; i++) {
                    long n = i;
                    // At warn, a caller waits for room instead of shedding.
                    pipeline.accept(event(Level.WARN, "m")
                            .fields(f -> f.put("t", number).put("n", n)));
                }
            }));
        }
        callers.forEach(Thread::start);
        for (Thread caller : callers) {
            caller.join();
        }
        assertTrue(pipeline.close(LONG));

        assertEquals(threads * each, written.size());
        Map<Object, Long> next = new HashMap<>();
        for (Event event : written) {
            long expected = next.merge(event.fields().get("t"), 1L, Long::sum) - 1;
            assertEquals(expected, event.fields().get("n"));
        }
        assertEquals(
                (long) threads * each,
                written.stream().mapToLong(Event::sequence).distinct().count());
    }

    private final List<Event> written = new ArrayList<>();

    /** Keeps events in a list that only its own thread touches until the end: a copying list is too slow for this number. */
    private Sink one(int expected) {
        ((ArrayList<Event>) written).ensureCapacity(expected);
        return written::add;
    }

    @Test
    void mistakesInTheBuilderAreRefused() {
        assertEquals(
                "capacity: 100 (expected: a power of two from 65536 up)",
                assertThrows(
                                IllegalArgumentException.class,
                                () -> Pipeline.builder().queueBytes(100))
                        .getMessage());
        assertEquals(
                "two sinks are called \"one\"",
                assertThrows(IllegalArgumentException.class, () -> both().sink("one", one, Level.INFO))
                        .getMessage());
        assertEquals(
                "a route leads to the sink \"three\": expected one of [one, two]",
                assertThrows(
                                IllegalArgumentException.class,
                                () -> both().route(new Route(Condition.EVERYTHING, List.of("three")))
                                        .start())
                        .getMessage());
    }

    private PipelineBuilder both() {
        return Pipeline.builder()
                .reporter(reports::add)
                .sink("one", one, Level.TRACE)
                .sink("two", two, Level.TRACE);
    }

    private static List<String> messages(MemorySink sink) {
        return sink.events().stream().map(Event::message).toList();
    }

    private static Draft event(Level level, String message) {
        return new Draft().time(1).level(level).logger("skerry.deck").message(message);
    }

    @Test
    void aSynchronousPipelineHasWrittenWhenAcceptReturnsAndStartsNoThread() {
        Sink failing = event -> {
            throw new IOException("gone");
        };
        Pipeline pipeline =
                both().sink("failing", failing, Level.TRACE).synchronous(true).start();
        for (int i = 0; i < 3; i++) {
            pipeline.accept(event(Level.INFO, "m" + i));
            assertEquals(i + 1, one.events().size());
        }
        assertTrue(Thread.getAllStackTraces().keySet().stream()
                .noneMatch(t -> t.getName().equals("graphema-failing")));
        assertEquals(Map.of(Level.INFO, 3L), pipeline.lost().get("failing"));
        assertEquals(2, reports.size(), reports.toString());
        assertFalse(pipeline.close(LONG));
        assertEquals(3, two.events().size());
    }

    @Test
    void aSynchronousSinkThatReportsSomethingMakesNoLoop() {
        Pipeline[] pipeline = new Pipeline[1];
        List<String> written = new ArrayList<>();
        Sink talkative = event -> {
            written.add(event.message());
            pipeline[0].accept(event(Level.INFO, "again"));
        };
        pipeline[0] = Pipeline.builder()
                .synchronous(true)
                .sink("talkative", talkative, Level.TRACE)
                .start();
        pipeline[0].accept(event(Level.INFO, "once"));

        assertEquals(List.of("once"), written);
        pipeline[0].close(LONG);
    }
}
