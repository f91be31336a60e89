package dev.graphema.pipeline;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.RefusedException;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.locks.LockSupport;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Steps a delivery by hand: its thread is never started. */
class SinkWorkerTest {
    private final List<String> reports = new CopyOnWriteArrayList<>();
    private final RecordingSink sink = new RecordingSink();
    private final SinkWorker delivery = new SinkWorker(
            "log",
            new Pipeline.Target(sink, Level.TRACE, new SinkHealth("log", reports::add), null, false),
            new CountingHandover(64),
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
    void whatWasShedIsReportedOnceWhenThereIsRoomAgain() {
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
    void errorsAreReportedEverMoreRarely() {
        delivery.handOver(event(Level.INFO, "a"));
        sink.problem = new IOException("gone");
        for (int i = 0; i < 9; i++) {
            delivery.step();
        }

        assertEquals(4, reports.size(), reports.toString());
    }

    @ParameterizedTest
    @ValueSource(
            classes = {AssertionError.class, StackOverflowError.class, NoClassDefFoundError.class, ThreadDeath.class})
    void anErrorOfTheSinkCostsItsEventAlone(Class<? extends Error> type) throws Exception {
        sink.error = type.getDeclaredConstructor().newInstance();
        delivery.handOver(event(Level.WARN, "poison"));
        delivery.handOver(event(Level.INFO, "b"));
        delivery.step();

        assertEquals(List.of("b", "lost {WARN=1}", "flush"), sink.calls);
        assertEquals(Map.of(Level.WARN, 1L), delivery.health.byLevel());
    }

    @Test
    void withoutMemoryAnEventIsTriedAgainAFewTimesAndThenLost() {
        sink.error = new OutOfMemoryError();
        delivery.handOver(event(Level.WARN, "poison"));
        delivery.handOver(event(Level.INFO, "b"));
        assertTrue(delivery.step() > 0);
        assertTrue(delivery.step() > 0);
        assertEquals(List.of(), sink.calls);
        delivery.step();

        assertEquals(List.of("b", "lost {WARN=1}", "flush"), sink.calls);
    }

    @Test
    void aBatchThatCanNeverBeFlushedDoesNotBlockLaterOnes() {
        sink.flushError = new IllegalStateException("never");
        delivery.handOver(event(Level.INFO, "a"));
        delivery.handOver(event(Level.ERROR, "b"));
        for (int i = 0; i < 3; i++) {
            delivery.step();
        }
        assertEquals(Map.of(Level.INFO, 1L, Level.ERROR, 1L), delivery.health.byLevel());
        sink.flushError = null;
        delivery.handOver(event(Level.INFO, "c"));
        delivery.step();

        assertEquals(List.of("a", "b", "discard", "c", "lost {INFO=1, ERROR=1}", "flush"), sink.calls);
        assertEquals(2, delivery.written());
    }

    @Test
    void whatASinkReportsIsLostIsCountedTheLeastSevereFirst() {
        sink.flushProblem = new RefusedException("gone", 2);
        delivery.handOver(event(Level.ERROR, "a"));
        delivery.handOver(event(Level.INFO, "b"));
        delivery.handOver(event(Level.WARN, "c"));
        delivery.step();

        assertEquals(Map.of(Level.INFO, 1L, Level.WARN, 1L), delivery.health.byLevel());
        assertEquals(1, delivery.written());
    }

    @Test
    void pausesGrowUpToASecondAndEndWithSuccess() {
        delivery.handOver(event(Level.INFO, "a"));
        sink.problem = new IOException("gone");
        long before = 0;
        for (int i = 0; i < 20; i++) {
            long pause = delivery.step();
            assertTrue(pause >= before && pause <= 1_000_000_000L, pause + " after " + before);
            before = pause;
        }
        assertEquals(1_000_000_000L, before);
        assertEquals(SinkWorker.State.STARTING, delivery.state(), "its thread was not started");
        sink.problem = null;

        assertEquals(SinkWorker.PROGRESS, delivery.step());
    }

    @Test
    void neitherWakingNorInterruptingAThreadCutsItsPauseShort() throws Exception {
        CountDownLatch failed = new CountDownLatch(12);
        AtomicInteger attempts = new AtomicInteger();
        Thread[] worker = new Thread[1];
        SinkWorker failing = worker(event -> {
            worker[0] = Thread.currentThread();
            attempts.incrementAndGet();
            failed.countDown();
            throw new IOException("gone");
        });
        failing.start();
        failing.handOver(event(Level.INFO, "a"));
        failed.await();
        int before = attempts.get();
        long until = System.nanoTime() + 300_000_000;
        while (System.nanoTime() < until) {
            worker[0].interrupt();
            LockSupport.unpark(worker[0]);
            Thread.onSpinWait();
        }
        failing.beginEnd(Delivery.Ending.CLOSE, System.nanoTime());
        failing.awaitEnd();

        assertTrue(attempts.get() - before <= 4, attempts.get() - before + " attempts while it was to pause");
    }

    @Test
    void atTheEndEveryEventIsWrittenOrCountedThoseInFlightIncluded() {
        SinkWorker failing = worker(event -> {
            throw new IOException("gone");
        });
        failing.start();
        for (int i = 0; i < 40; i++) {
            failing.handOver(event(i % 2 == 0 ? Level.INFO : Level.ERROR, "m" + i));
        }
        failing.beginEnd(Delivery.Ending.CLOSE, System.nanoTime() + 50_000_000);

        assertFalse(failing.awaitEnd());
        assertEquals(Map.of(Level.INFO, 20L, Level.ERROR, 20L), failing.health.byLevel());
        assertEquals(SinkWorker.State.ENDED, failing.state());
    }

    @Test
    void aSinkThatHangsIsGivenUpAndItsEventsAreCounted() throws Exception {
        CountDownLatch hangs = new CountDownLatch(1);
        CountDownLatch goOn = new CountDownLatch(1);
        SinkWorker hanging = worker(event -> {
            hangs.countDown();
            while (goOn.getCount() > 0) {
                try {
                    goOn.await();
                } catch (InterruptedException e) {
                    continue; // as code does that does not react to interrupts
                }
            }
        });
        hanging.start();
        hanging.handOver(event(Level.WARN, "stuck"));
        hangs.await();
        for (int i = 0; i < 10; i++) {
            hanging.handOver(event(Level.INFO, "m" + i));
        }
        hanging.beginEnd(Delivery.Ending.CLOSE, System.nanoTime());

        assertFalse(hanging.awaitEnd());
        assertEquals(Map.of(Level.WARN, 1L, Level.INFO, 10L), hanging.health.byLevel());
        goOn.countDown();
        hanging.handOver(event(Level.INFO, "late"));
        assertEquals(11L, hanging.health.byLevel().get(Level.INFO));
        assertEquals(0, hanging.written());
    }

    @Test
    void whoeverClosesWaitsForTheSameEnd() throws Exception {
        CountDownLatch goOn = new CountDownLatch(1);
        List<String> written = new CopyOnWriteArrayList<>();
        SinkWorker slow = worker(event -> {
            try {
                goOn.await();
            } catch (InterruptedException e) {
                throw new IOException(e);
            }
            written.add(event.message());
        });
        slow.start();
        slow.handOver(event(Level.INFO, "a"));
        slow.handOver(event(Level.INFO, "b"));
        Thread[] closers = new Thread[3];
        List<Integer> seen = new CopyOnWriteArrayList<>();
        for (int i = 0; i < closers.length; i++) {
            closers[i] = new Thread(() -> {
                slow.beginEnd(Delivery.Ending.CLOSE, System.nanoTime() + 30_000_000_000L);
                slow.awaitEnd();
                seen.add(written.size());
            });
            closers[i].start();
        }
        goOn.countDown();
        for (Thread closer : closers) {
            closer.join();
        }

        assertEquals(List.of(2, 2, 2), seen);
    }

    @Test
    void afterDrainingForTheEndOfTheProcessEventsAreWrittenByTheirCallersUntilTheSinkIsClosed() {
        List<String> written = new CopyOnWriteArrayList<>();
        SinkWorker worker = worker(event ->
                written.add(event.message() + " by " + Thread.currentThread().getName()));
        worker.start();
        worker.handOver(event(Level.INFO, "queued"));
        worker.beginEnd(Delivery.Ending.STAY_OPEN, System.nanoTime() + 30_000_000_000L);
        assertTrue(worker.awaitEnd());
        assertEquals(SinkWorker.State.DIRECT, worker.state());
        worker.handOver(event(Level.INFO, "in a hook"));
        worker.beginEnd(Delivery.Ending.CLOSE, System.nanoTime() + 30_000_000_000L);
        worker.awaitEnd();
        worker.handOver(event(Level.INFO, "too late"));

        assertEquals(
                List.of(
                        "queued by graphema-log",
                        "in a hook by " + Thread.currentThread().getName()),
                written);
        assertEquals(Map.of(Level.INFO, 1L), worker.health.byLevel());
    }

    private SinkWorker worker(Sink of) {
        return new SinkWorker(
                "log",
                new Pipeline.Target(of, Level.TRACE, new SinkHealth("log", reports::add), null, false),
                new CountingHandover(64),
                Duration.ofMillis(1),
                losses -> event(Level.WARN, "lost " + losses));
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

    private static Draft event(Level level, String message) {
        return new Draft().level(level).message(message).complete();
    }

    private static final class RecordingSink implements Sink {
        private final List<String> calls = new ArrayList<>();
        private IOException problem;
        private IOException flushProblem;
        private RuntimeException flushError;
        private Error error;

        @Override
        public void write(Event event) throws IOException {
            if (problem != null) {
                throw problem;
            }
            if (event.message().equals("poison") && error != null) {
                throw error;
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
            if (flushError != null) {
                throw flushError;
            }
            calls.add("flush");
        }

        @Override
        public long discard() {
            calls.add("discard");
            return -1;
        }
    }
}
