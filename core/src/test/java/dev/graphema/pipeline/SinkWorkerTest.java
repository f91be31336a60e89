package dev.graphema.pipeline;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Steps a delivery by hand: its thread is never started. */
class SinkWorkerTest {
    private final List<String> reports = new ArrayList<>();
    private final RecordingSink sink = new RecordingSink();
    private final SinkWorker delivery = new SinkWorker(
            "log",
            new Pipeline.Target(sink, Level.TRACE, new SinkHealth("log", reports::add), null, false),
            new MemoryHandover(64),
            Duration.ofMillis(1),
            losses -> event(Level.WARN, "lost " + losses));

    @Test
    void aStepWritesABatchAndFlushesOnce() {
        delivery.handOver(event(Level.INFO, "a"));
        delivery.handOver(event(Level.INFO, "b"));

        assertEquals(SinkWorker.PROGRESS, delivery.step());
        assertEquals(List.of("a", "b", "flush"), sink.calls);
        assertEquals(SinkWorker.NOTHING, delivery.step());
    }

    @Test
    void theLeastSevereAreShedFirst() {
        assertEquals(64 - 8, written(Level.DEBUG));
        assertEquals(64 - 4, written(Level.INFO));
        assertEquals(64, written(Level.ERROR));
    }

    @Test
    void whatWasShedIsToldOnceWhenThereIsRoomAgain() {
        fill(Level.INFO);
        assertEquals(Map.of(Level.INFO, 40L), delivery.health.byLevel());
        delivery.step();
        delivery.handOver(event(Level.INFO, "after"));
        delivery.step();

        assertEquals(1, sink.calls.stream().filter("lost {INFO=40}"::equals).count());
        assertEquals(
                1, sink.calls.stream().filter(call -> call.startsWith("lost")).count());
    }

    @Test
    void anEventThatCouldNotBeWrittenIsTriedAgainAndInOrder() {
        delivery.handOver(event(Level.INFO, "a"));
        delivery.handOver(event(Level.INFO, "b"));
        sink.problem = new IOException("No space left on device");
        delivery.step();
        delivery.step();
        assertEquals(List.of(), sink.calls);
        sink.problem = null;
        delivery.step();

        assertEquals(List.of("a", "b", "flush"), sink.calls);
        assertEquals(Map.of(), delivery.health.byLevel());
        assertEquals(
                List.of(
                        "sink log: cannot write (java.io.IOException: No space left on device), attempt 1; events wait in"
                                + " its queue, the least severe are dropped when it is full",
                        "sink log: cannot write (java.io.IOException: No space left on device), attempt 2; events wait in"
                                + " its queue, the least severe are dropped when it is full",
                        "sink log: writes again, after 2 failed attempts"),
                reports);
    }

    @Test
    void aFlushThatFailsIsTriedAgain() {
        delivery.handOver(event(Level.INFO, "a"));
        sink.flushProblem = new IOException("gone");
        delivery.step();
        sink.flushProblem = null;
        delivery.step();

        assertEquals(List.of("a", "flush"), sink.calls);
        assertTrue(delivery.awaitWritten(System.nanoTime()));
    }

    @Test
    void anEventThatMakesTheSinkThrowDoesNotStopThoseBehindIt() {
        delivery.handOver(event(Level.INFO, "poison"));
        delivery.handOver(event(Level.INFO, "b"));
        delivery.step();

        assertEquals(List.of("b", "lost {INFO=1}", "flush"), sink.calls);
        assertEquals(Map.of(Level.INFO, 1L), delivery.health.byLevel());
    }

    @Test
    void troubleIsReportedEverMoreRarely() {
        delivery.handOver(event(Level.INFO, "a"));
        sink.problem = new IOException("gone");
        for (int i = 0; i < 9; i++) {
            delivery.step();
        }

        assertEquals(4, reports.size(), reports.toString());
    }

    /** How many of a hundred events of that level are written, and not the report of those that are not. */
    private long written(Level level) {
        fill(level);
        sink.calls.clear();
        delivery.step();
        return sink.calls.stream().filter(call -> call.startsWith("m")).count();
    }

    private void fill(Level level) {
        for (int i = 0; i < 100; i++) {
            delivery.handOver(event(level, "m" + i));
        }
    }

    private static Event event(Level level, String message) {
        return new Draft().level(level).message(message).finish();
    }

    private static final class RecordingSink implements Sink {
        private final List<String> calls = new ArrayList<>();
        private IOException problem;
        private IOException flushProblem;

        @Override
        public void write(Event event) throws IOException {
            if (problem != null) {
                throw problem;
            }
            if (event.message().equals("poison")) {
                throw new IllegalStateException("cannot write this one");
            }
            calls.add(event.message());
        }

        @Override
        public void flush() throws IOException {
            if (flushProblem != null) {
                throw flushProblem;
            }
            calls.add("flush");
        }
    }
}
