package dev.graphema.pipeline;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
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
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/**
 * Random schedules of events and faults against a model: every event that was handed over is written exactly once or counted
 * exactly once, at its level; and an event is lost only for a reason that allows it. {@code -Dschedules=10000 -Dseed=1} runs
 * more of them.
 */
class FaultSchedulesTest {
    private static final int CAPACITY = 64 * 1024;

    /** Makes events large, so that the queue is often full. */
    private static final String LONG_NAME = "x".repeat(800);

    private static final Level[] LEVELS = {Level.DEBUG, Level.INFO, Level.WARN, Level.ERROR};

    @Test
    @Timeout(3600)
    void everyEventIsWrittenOnceOrCountedOnce() {
        long seed = Long.getLong("seed", System.nanoTime());
        int schedules = Integer.getInteger("schedules", 300);
        long events = 0;
        for (int i = 0; i < schedules; i++) {
            Schedule schedule = new Schedule(seed + i);
            schedule.run();
            events += schedule.offered;
        }
        System.out.println(schedules + " schedules from seed " + seed + ": " + events + " events, no difference");
    }

    /** What the sink does at the moment. */
    private enum Fault {
        NONE,
        REFUSE,
        THROW_ERROR,
        NO_MEMORY,
        FLUSH_REFUSES,
        FLUSH_THROWS,
        HALF_A_WRITE,
        LOSE_SOME
    }

    private static final class Schedule {
        private final long seed;
        private final Random random;
        private final FaultySink sink = new FaultySink();
        private final SinkHealth health = new SinkHealth("log", report -> {});
        private final MemoryHandover handover = new MemoryHandover(CAPACITY);
        private final SinkWorker worker = new SinkWorker(
                "log",
                new Pipeline.Target(sink, Level.TRACE, health, null, false),
                handover,
                Duration.ZERO,
                losses -> event(Level.WARN, "report"));
        private final Map<Level, Long> offeredByLevel = new EnumMap<>(Level.class);
        private long offered;
        private boolean mayLose;

        Schedule(long seed) {
            this.seed = seed;
            this.random = new Random(seed);
        }

        void run() {
            int steps = 20 + random.nextInt(80);
            for (int i = 0; i < steps; i++) {
                switch (random.nextInt(6)) {
                    case 0, 1 -> offerSome();
                    case 2, 3 -> worker.step();
                    case 4 -> sink.fault = Fault.values()[random.nextInt(Fault.values().length)];
                    default -> sink.fault = Fault.NONE;
                }
                mayLose |= sink.fault != Fault.NONE && sink.fault != Fault.REFUSE && sink.fault != Fault.FLUSH_REFUSES;
            }
            boolean endsWell = random.nextBoolean();
            sink.fault = endsWell ? Fault.NONE : sink.fault;
            long limit = endsWell ? 30_000_000_000L : 1_000_000L;
            worker.beginEnd(Delivery.Ending.CLOSE, System.nanoTime() + limit);
            // A sink that does not hang lets its thread end by itself, however late on a busy machine.
            await().atMost(Duration.ofMinutes(2))
                    .pollDelay(Duration.ZERO)
                    .pollInterval(Duration.ofMillis(1))
                    .atMost(Duration.ofMinutes(1))
                    .until(() -> worker.state() == SinkWorker.State.ENDED);
            worker.awaitEnd();
            offerSome(); // too late: counted
            check(endsWell);
        }

        private void offerSome() {
            for (int i = random.nextInt(30); i > 0; i--) {
                Level level = LEVELS[random.nextInt(LEVELS.length)];
                Draft event = event(level, Long.toString(offered));
                boolean isFull = isFull(event);
                long lostBefore = health.total();
                worker.handOver(event);
                offered++;
                offeredByLevel.merge(level, 1L, Long::sum);
                boolean isOver = worker.state() == SinkWorker.State.ENDED;
                assertEquals(
                        isFull || isOver, health.total() > lostBefore, "seed " + seed + ", event " + (offered - 1));
                mayLose |= isFull || isOver;
            }
        }

        /** Whether a record of this length does not fit, also because none is divided at the end of the ring. */
        private boolean isFull(Draft event) {
            int parts = event.level().passes(Level.WARN) ? 0 : event.level() == Level.INFO ? 1 : 2;
            long tail = handover.offeredUpTo();
            long size = event.encoded().length() + 16 + 7 & ~7;
            long toEnd = CAPACITY - tail % CAPACITY;
            long padding = toEnd < size ? toEnd : 0;
            long free = CAPACITY - (tail - handover.takenUpTo());
            return padding + size > free - parts * (CAPACITY / Handover.PARTS);
        }

        private void check(boolean endsWell) {
            String at = "seed " + seed;
            Map<Level, Long> settled = new EnumMap<>(health.byLevel());
            Set<String> seen = new HashSet<>();
            for (Event event : sink.written) {
                if (!event.message().equals("report")) {
                    assertTrue(seen.add(event.message()), at + ": " + event + " was written twice");
                    settled.merge(event.level(), 1L, Long::sum);
                }
            }
            if (!sink.hasLostPart) {
                assertEquals(offeredByLevel, settled, at);
            }
            assertEquals(
                    offered,
                    settled.values().stream().mapToLong(Long::longValue).sum(),
                    at + ", levels " + settled);
            assertTrue(mayLose || !endsWell || health.total() == 0, at + " lost " + health.byLevel());
        }
    }

    /** Gathers events as a sink does, and fails as it is output to. What is flushed is written. */
    private static final class FaultySink implements Sink {
        private final List<Event> written = new ArrayList<>();
        private final List<Event> gathered = new ArrayList<>();
        private Fault fault = Fault.NONE;

        /** Of a part of a batch, the worker knows the number and not the levels. */
        private boolean hasLostPart;

        @Override
        public void write(Event event) throws IOException {
            switch (fault) {
                case REFUSE -> throw new IOException("full");
                case THROW_ERROR -> throw new AssertionError("code");
                case NO_MEMORY -> throw new OutOfMemoryError("none left");
                default -> gathered.add(event);
            }
        }

        @Override
        public void flush() throws IOException {
            switch (fault) {
                case FLUSH_REFUSES -> throw new IOException("gone");
                case FLUSH_THROWS -> throw new IllegalStateException("code");
                case HALF_A_WRITE -> {
                    List<Event> half = new ArrayList<>(gathered.subList(0, gathered.size() / 2));
                    written.addAll(half);
                    gathered.subList(0, half.size()).clear();
                    hasLostPart = true;
                    throw new IOException("half a write");
                }
                case LOSE_SOME -> loseSome();
                default -> {
                    written.addAll(gathered);
                    gathered.clear();
                }
            }
        }

        /** A sink does not report which events are lost: the sums agree, but not the counts of each level. */
        private void loseSome() throws IOException {
            List<Event> ofTheProgram = gathered.stream()
                    .filter(event -> !event.message().equals("report"))
                    .toList();
            int lost = (ofTheProgram.size() + 1) / 2;
            gathered.removeAll(ofTheProgram.subList(0, lost));
            written.addAll(gathered);
            gathered.clear();
            hasLostPart = true;
            if (lost > 0) {
                throw new RefusedException("lost", lost);
            }
        }

        @Override
        public long discard() {
            long count = gathered.size();
            gathered.clear();
            return count;
        }
    }

    private static Draft event(Level level, String message) {
        return new Draft().level(level).message(message).logger(LONG_NAME).complete();
    }
}
