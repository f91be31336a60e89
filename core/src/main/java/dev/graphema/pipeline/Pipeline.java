package dev.graphema.pipeline;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.holdback.HoldBack;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.spool.RingFile;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;

/**
 * Takes the events of one runtime and delivers them to their sinks: sampled, redacted, routed and handed over on the
 * caller's thread, written on the sink's. Made by a {@link PipelineBuilder}, and safe to share between threads. Another builder can
 * {@link #replace} what it does while events come.
 *
 * <p>{@link #accept} throws nothing but {@link OutOfMemoryError} and never blocks, except that a warning or worse waits a
 * bounded time for room.
 */
public final class Pipeline {
    private static final Duration LONGEST_REPLACING = Duration.ofSeconds(10);

    private final Reporter reporter;
    private final SequenceNumbers numbers;
    private final AtomicLong late = new AtomicLong();
    private final AtomicLong refused = new AtomicLong();
    private final Map<String, Retired> retired = new LinkedHashMap<>();
    private volatile PipelineConfiguration plan;
    private volatile boolean closed;

    /** What a sink that was replaced has written and lost. */
    private record Retired(long written, SinkHealth health) {}

    Pipeline(PipelineBuilder builder) {
        reporter = builder.reporter();
        numbers = new SequenceNumbers(builder.run());
        plan = new PipelineConfiguration(builder, 1, outlets(builder, Map.of()), builder.holdBack());
    }

    public static PipelineBuilder builder() {
        return new PipelineBuilder();
    }

    /**
     * Takes an event. Its level, logger, message and time must be set; service, instance, run and sequence are set here.
     *
     * <p>Whatever goes wrong inside costs this event at the most: it is counted as {@link #refused}, and the first one is
     * reported.
     */
    public void accept(Draft draft) {
        accept(draft, generation());
    }

    /**
     * As above, for an event that the thresholds of that {@link #generation} let in: when others are in force by now, they
     * are asked, so that no event goes by a mixture of both.
     */
    public void accept(Draft draft, long admittedBy) {
        if (closed) {
            countLate();
            return;
        }
        PipelineConfiguration current;
        int place;
        while (true) {
            current = plan;
            place = current.usage.enter();
            if (current == plan) {
                break;
            }
            current.usage.leave(place); // it was replaced just now, and nobody may begin with it any more
        }
        try {
            if (current.admits(draft, admittedBy)) {
                current.take(draft, numbers);
            }
        } catch (Throwable e) {
            refuse(e);
            FailurePolicy.contain(e);
        } finally {
            current.usage.leave(place);
        }
    }

    /** Counts an event that could not be made or processed, and reports the first one. */
    public void refuse(Throwable problem) {
        if (refused.getAndIncrement() == 0) {
            report("an event could not be processed and is lost ("
                    + problem.getClass().getName() + "); further ones are only counted");
        }
    }

    /** How many events could not be made or processed. */
    public long refused() {
        return refused.get();
    }

    /** How many texts were withheld since the settings took effect, because a detector or treatment failed. */
    public long withheld() {
        return plan.withheld();
    }

    /** Which settings are in force: 1 at first, and one more with each {@link #replace}. */
    public long generation() {
        return plan.generation();
    }

    /**
     * Goes by another plan from now on. Events that are on their way go by the old one to their end; sinks that only the old
     * one has are closed when they have written those. Sinks that both have are not touched.
     *
     * @param next its sinks are new ones, or those of this pipeline that are {@linkplain PipelineBuilder#keep kept}
     * @param inForce called when the new plan is, before the old one's sinks are closed
     * @throws IllegalArgumentException when a route leads nowhere; nothing has changed then
     * @throws IllegalStateException when the pipeline is closed; nothing has changed then
     */
    public synchronized void replace(PipelineBuilder next, Runnable inForce) {
        if (closed) {
            throw new IllegalStateException("the pipeline is closed");
        }
        PipelineConfiguration old = plan;
        Map<String, PipelineConfiguration.Outlet> outlets = outlets(next, old.outlets());
        PipelineConfiguration following = new PipelineConfiguration(
                next, old.generation() + 1, outlets, next.keepsHeld() ? old.holdBack() : next.holdBack());
        outlets.forEach((name, outlet) -> {
            if (isNew(outlet, old) && !next.targets().get(name).waits()) {
                outlet.delivery().start();
            }
        });
        plan = following;
        inForce.run();
        long by = System.nanoTime() + LONGEST_REPLACING.toNanos();
        old.usage.awaitNone(by);
        old.outlets().forEach((name, outlet) -> {
            if (isNew(outlet, following)) {
                outlet.delivery().beginEnd(Delivery.Ending.CLOSE, by);
            }
        });
        old.outlets().forEach((name, outlet) -> {
            if (isNew(outlet, following)) {
                retire(name, outlet.delivery());
            }
        });
        outlets.forEach((name, outlet) -> {
            if (isNew(outlet, old) && next.targets().get(name).waits()) {
                outlet.delivery().start();
            }
        });
    }

    /** Waits for the end of a sink that is not used any more, and keeps its counts. */
    private void retire(String name, Delivery delivery) {
        delivery.awaitEnd();
        synchronized (retired) {
            long before = retired.containsKey(name) ? retired.get(name).written() : 0;
            retired.put(name, new Retired(before + delivery.written(), delivery.health));
        }
    }

    /** Whether the other plan does not have the sink. */
    private static boolean isNew(PipelineConfiguration.Outlet outlet, PipelineConfiguration other) {
        return other.outlets().values().stream().noneMatch(each -> each.delivery() == outlet.delivery());
    }

    private Map<String, PipelineConfiguration.Outlet> outlets(
            PipelineBuilder builder, Map<String, PipelineConfiguration.Outlet> known) {
        Map<String, PipelineConfiguration.Outlet> outlets = new LinkedHashMap<>();
        builder.targets().forEach((name, target) -> {
            Delivery delivery = target.sink() == null ? known.get(name).delivery() : delivery(name, target, builder);
            outlets.put(name, new PipelineConfiguration.Outlet(delivery, target.threshold(), 1L << outlets.size()));
        });
        return outlets;
    }

    /** Waits until what was accepted so far is written; false when that takes longer than the limit. */
    public boolean flush(Duration limit) {
        long by = System.nanoTime() + limit.toNanos();
        boolean all = true;
        for (Delivery delivery : deliveries()) {
            all &= delivery.awaitWritten(by);
        }
        return all;
    }

    /**
     * Accepts nothing more, writes what was accepted and ends the sinks' threads. A second call waits for the end, too.
     *
     * @return false when that takes longer than the limit or something could not be written
     */
    public synchronized boolean close(Duration limit) {
        closed = true;
        return end(Delivery.Ending.CLOSE, limit);
    }

    /**
     * Writes what was accepted, for a process that is about to end. The sinks stay open: what is still logged until the JVM
     * halts is written at once, by the thread that logs it.
     *
     * @return as for {@link #close}
     */
    public synchronized boolean drain(Duration limit) {
        return closed || end(Delivery.Ending.STAY_OPEN, limit);
    }

    private boolean end(Delivery.Ending ending, Duration limit) {
        long by = System.nanoTime() + limit.toNanos();
        for (Delivery delivery : deliveries()) {
            delivery.beginEnd(ending, by);
        }
        boolean all = true;
        for (Delivery delivery : deliveries()) {
            all &= delivery.awaitEnd();
        }
        return all;
    }

    /** Whether the thread is one that writes to a sink. */
    public static boolean isSinkThread(Thread thread) {
        return thread instanceof SinkWorker.SinkThread;
    }

    /** How many events were accepted so far. */
    public long accepted() {
        return numbers.last();
    }

    /** Counts an event that somebody else holds back because this pipeline has ended. */
    public void countLate() {
        late.incrementAndGet();
    }

    /** How many events came after the end. */
    public long late() {
        return late.get();
    }

    /** What tells this run of the process from all others, or null. */
    public String run() {
        return numbers.run();
    }

    /** Reports a failure of Graphema's own. */
    public void report(String trouble) {
        try {
            reporter.report(trouble);
        } catch (Throwable e) {
            // The report itself fails, as when somebody has closed standard error: nobody is left to report it to.
            FailurePolicy.contain(e);
        }
    }

    /** Whether the trace of the event is one that the sampling rules keep; see {@link dev.graphema.sampling.Sampler#keepsTrace}. */
    public boolean keepsTrace(Draft draft) {
        return plan.keepsTrace(draft);
    }

    /** How many events each sampling rule has dropped since the settings came into force, in the order of the rules. */
    public List<Long> thinned() {
        return plan.dropped();
    }

    /** What is held back, and what became of what was since the settings came into force. */
    public HoldBack.Held held() {
        return plan.holdBack().held();
    }

    /** How many events each sink has written, by its name; those of sinks that were replaced included. */
    public Map<String, Long> written() {
        Map<String, Long> written = bySink(Delivery::written);
        synchronized (retired) {
            retired.forEach((name, sink) -> written.merge(name, sink.written(), Long::sum));
        }
        return written;
    }

    /** What went wrong last with each sink for which something did, by its name. */
    public Map<String, String> troubles() {
        Map<String, String> troubles = bySink(delivery -> delivery.health.lastTrouble());
        troubles.values().removeIf(Objects::isNull);
        return troubles;
    }

    List<Delivery> deliveries() {
        return plan.outlets().values().stream()
                .map(PipelineConfiguration.Outlet::delivery)
                .toList();
    }

    private <T> Map<String, T> bySink(Function<Delivery, T> what) {
        Map<String, T> bySink = new LinkedHashMap<>();
        for (Delivery delivery : deliveries()) {
            bySink.put(delivery.name(), what.apply(delivery));
        }
        return bySink;
    }

    /**
     * How many events of which level each sink did not get because its queue was full or it could not write, by its name;
     * those of sinks that were replaced included.
     */
    public Map<String, Map<Level, Long>> lost() {
        Map<String, Map<Level, Long>> lost = bySink(delivery -> delivery.health.byLevel());
        synchronized (retired) {
            // A sink that replaces one of the same name continues its counts.
            retired.forEach((name, sink) -> lost.putIfAbsent(name, sink.health().byLevel()));
        }
        return lost;
    }

    private Delivery delivery(String name, Target target, PipelineBuilder builder) {
        return builder.synchronous()
                ? new DirectDelivery(name, target)
                : new SinkWorker(
                        name,
                        target,
                        target.ring() == null
                                ? new MemoryHandover(builder.capacity())
                                : new DurableHandover(target.ring(), builder.capacity(), target.health()::trouble),
                        builder.longestWait(),
                        losses -> lossEvent(name, losses, builder));
    }

    private Event lossEvent(String sink, Map<Level, Long> losses, PipelineBuilder builder) {
        long count = losses.values().stream().mapToLong(Long::longValue).sum();
        return new Draft()
                .time(Times.now())
                .level(Level.WARN)
                .service(builder.service())
                .instance(builder.instance())
                .logger("dev.graphema")
                .message("events lost")
                .fields(f -> f.put("sink", sink)
                        .put("count", count)
                        .group("levels", g -> losses.forEach((level, lost) -> g.put(level.text(), lost)))
                        .put(
                                "remedy",
                                "sample or route away the most frequent events, or give the sink a faster target"))
                .run(numbers.run())
                .sequence(numbers.next())
                .finish();
    }

    /**
     * A sink.
     *
     * @param sink null for one that the pipeline has already
     * @param threshold the least severe level that it gets
     * @param health notes what it does not get and what goes wrong
     * @param ring where events wait for it; null for the process's memory
     * @param waits whether it begins to write only when the sinks that it replaces have ended
     */
    record Target(Sink sink, Level threshold, SinkHealth health, RingFile ring, boolean waits) {}
}
