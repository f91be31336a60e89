package dev.graphema.pipeline;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.holdback.HoldBack;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.sink.SinkStatus;
import dev.graphema.spool.RingFile;
import dev.graphema.text.Times;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;

/**
 * Delivers the events of a runtime to its sinks: they are sampled, redacted, routed and handed over on the calling
 * thread, and written on the threads of the sinks. Created by a {@link PipelineBuilder}; another builder can {@link
 * #replace} its configuration at run time. Thread-safe.
 *
 * <p>{@link #accept} throws only {@link OutOfMemoryError} and does not block, except that events at level warn and
 * above wait a limited time for space in a queue.
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

    /** The counts of a replaced sink. */
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
     * Accepts an event. Level, logger, message and time must be set; service, instance, run and sequence are set here.
     *
     * <p>A failure affects only this event: it is counted as {@link #refused}, and the first one is reported.
     */
    public void accept(Draft draft) {
        accept(draft, generation());
    }

    /**
     * As above, for an event that the thresholds of a {@link #generation} have accepted. If other thresholds are in
     * effect, they are evaluated, so that the event is processed by one configuration only.
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

    /** Counts an event that could not be created or processed, and reports the first one. */
    public void refuse(Throwable problem) {
        if (refused.getAndIncrement() == 0) {
            report("an event could not be processed and is lost ("
                    + problem.getClass().getName() + "); further ones are only counted");
        }
    }

    /** Returns the number of events that could not be created or processed. */
    public long refused() {
        return refused.get();
    }

    /**
     * Returns the number of texts that were withheld since the settings took effect, because a detector or treatment
     * failed.
     */
    public long withheld() {
        return plan.withheld();
    }

    /** Returns the generation of the settings: 1 at first, and one more with each {@link #replace}. */
    public long generation() {
        return plan.generation();
    }

    /**
     * Applies another configuration. Events that are being processed use the old one to the end; sinks that only the
     * old one has are closed after they have written their events. Sinks in both are not changed.
     *
     * @param next has new sinks, or those of this pipeline that are {@linkplain PipelineBuilder#keep kept}
     * @param inForce called when the new configuration is in effect, before sinks are closed
     * @throws IllegalArgumentException if a route refers to an unknown sink; nothing has changed then
     * @throws IllegalStateException if the pipeline is closed; nothing has changed then
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

    /** Waits until a replaced sink is closed, and keeps its counts. */
    private void retire(String name, Delivery delivery) {
        delivery.awaitEnd();
        synchronized (retired) {
            long before = retired.containsKey(name) ? retired.get(name).written() : 0;
            retired.put(name, new Retired(before + delivery.written(), delivery.health));
        }
    }

    /** Returns whether the other configuration does not have the sink. */
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

    /**
     * Waits until all accepted events are written.
     *
     * @return false if this takes longer than the limit
     */
    public boolean flush(Duration limit) {
        long by = System.nanoTime() + limit.toNanos();
        boolean all = true;
        for (Delivery delivery : deliveries()) {
            all &= delivery.awaitWritten(by);
        }
        return all;
    }

    /**
     * Rejects further events, writes all accepted ones and ends the threads of the sinks. A second call also waits for
     * the end.
     *
     * @return false if this takes longer than the limit, or an event could not be written
     */
    public synchronized boolean close(Duration limit) {
        closed = true;
        return end(Delivery.Ending.CLOSE, limit);
    }

    /**
     * Writes all accepted events, for a process that is about to end. The sinks remain open: events that are emitted
     * until the JVM halts are written immediately, on the emitting thread.
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

    /** Returns whether the thread belongs to a sink. */
    public static boolean isSinkThread(Thread thread) {
        return thread instanceof SinkWorker.SinkThread;
    }

    /** Returns the number of accepted events. */
    public long accepted() {
        return numbers.last();
    }

    /** Counts an event after the pipeline was closed. */
    public void countLate() {
        late.incrementAndGet();
    }

    /** Returns the number of events after the pipeline was closed. */
    public long late() {
        return late.get();
    }

    /** Returns the id of this run of the process, or null. */
    public String run() {
        return numbers.run();
    }

    /** Reports an error of Graphema. */
    public void report(String error) {
        try {
            reporter.report(error);
        } catch (Throwable e) {
            // The report itself fails, as when somebody has closed standard error: nobody is left to report it to.
            FailurePolicy.contain(e);
        }
    }

    /**
     * Returns whether the sampling rules keep the trace of the event; see {@link
     * dev.graphema.sampling.Sampler#keepsTrace}.
     */
    public boolean keepsTrace(Draft draft) {
        return plan.keepsTrace(draft);
    }

    /**
     * Returns how many events each sampling rule has dropped since the settings took effect, in the order of the rules.
     */
    public List<Long> droppedBySampling() {
        return plan.dropped();
    }

    /** Returns the counts of held-back events since the settings took effect. */
    public HoldBack.Held held() {
        return plan.holdBack().held();
    }

    /** Returns the number of written events by sink, including replaced sinks. */
    public Map<String, Long> written() {
        Map<String, Long> written = bySink(Delivery::written);
        synchronized (retired) {
            retired.forEach((name, sink) -> written.merge(name, sink.written(), Long::sum));
        }
        return written;
    }

    /** Returns the state of each sink, by name. */
    public Map<String, SinkStatus> sinks() {
        return bySink(Delivery::status);
    }

    /** Returns the last error of each sink that has had one, by sink. */
    public Map<String, String> errors() {
        Map<String, String> errors = bySink(delivery -> delivery.health.lastError());
        errors.values().removeIf(Objects::isNull);
        return errors;
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

    /** Returns the number of lost events by sink and level, including replaced sinks. */
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
                                ? new MemoryHandover(builder.queueBytes())
                                : new DurableHandover(target.ring(), builder.queueBytes(), target.health()::error),
                        builder.longestWait(),
                        losses -> lossEvent(name, losses, builder));
    }

    private Draft lossEvent(String sink, Map<Level, Long> losses, PipelineBuilder builder) {
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
                .sequence(numbers.next());
    }

    /**
     * A sink.
     *
     * @param sink null for one that the pipeline already has
     * @param threshold its threshold
     * @param health records losses and errors
     * @param ring the file in which events wait; null for memory
     * @param waits whether it starts only after the sinks that it replaces are closed
     */
    record Target(Sink sink, Level threshold, SinkHealth health, RingFile ring, boolean waits) {}
}
