package dev.graphema.pipeline;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.spool.RingFile;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;

/**
 * Takes the events of one runtime and sees that they reach their sinks: thinned, redacted, routed and handed over on the
 * caller's thread, written on the sink's. Made by a {@link Builder}; from then on fixed, and safe to share between threads.
 *
 * <p>{@link #accept} never throws and never blocks, but for a warning or worse that waits a bounded time for room.
 */
public final class Pipeline {
    private final String service;
    private final String instance;
    private final Sampler sampler;
    private final Redactor redactor;
    private final Delivery[] deliveries;
    private final Condition[] conditions;
    private final Delivery[][] routes;
    private final Reporter reporter;
    private final String run;
    private final AtomicLong sequence = new AtomicLong();
    private final AtomicLong late = new AtomicLong();
    private final AtomicLong refused = new AtomicLong();
    private volatile boolean closed;

    private Pipeline(Builder builder) {
        service = builder.service;
        instance = builder.instance;
        sampler = builder.sampler;
        redactor = builder.redactor;
        reporter = builder.reporter;
        run = builder.run;
        Map<String, Delivery> byName = new LinkedHashMap<>();
        builder.targets.forEach((name, target) -> byName.put(name, delivery(name, target, builder)));
        deliveries = byName.values().toArray(new Delivery[0]);
        conditions = new Condition[builder.routes.size()];
        routes = new Delivery[builder.routes.size()][];
        for (int i = 0; i < conditions.length; i++) {
            conditions[i] = builder.routes.get(i).when();
            routes[i] = builder.routes.get(i).to().stream()
                    .map(name -> known(name, byName))
                    .toArray(Delivery[]::new);
        }
    }

    public static Builder builder() {
        return new Builder();
    }

    /**
     * Takes an event. Its level, logger, message and time must be set; service, instance and sequence are set here.
     *
     * <p>Whatever goes wrong inside is reported and costs this event at the most.
     */
    public void accept(Draft draft) {
        if (closed) {
            countLate();
            return;
        }
        try {
            long weight = sampler.weight(draft);
            if (weight > 0) {
                redactor.redact(draft);
                send(draft.weight(weight));
            }
        } catch (RuntimeException | StackOverflowError e) {
            if (refused.getAndIncrement() == 0) {
                reporter.report("an event could not be processed and is lost ("
                        + e.getClass().getName() + "); further ones are only counted");
            }
        }
    }

    private void send(Draft draft) {
        Event event = draft.service(service)
                .instance(instance)
                .run(run)
                .sequence(sequence.incrementAndGet())
                .finish();
        if (conditions.length == 0) {
            for (Delivery delivery : deliveries) {
                delivery.offer(event);
            }
            return;
        }
        long sent = 0; // one bit for each sink that has the event already
        for (int i = 0; i < conditions.length; i++) {
            if (conditions[i].matches(event)) {
                for (Delivery delivery : routes[i]) {
                    long bit = 1L << delivery.index();
                    if ((sent & bit) == 0) {
                        sent |= bit;
                        delivery.offer(event);
                    }
                }
            }
        }
    }

    /** Waits until what was accepted so far is written; false when that takes longer than the limit. */
    public boolean flush(Duration limit) {
        long by = System.nanoTime() + limit.toNanos();
        boolean all = true;
        for (Delivery delivery : deliveries) {
            all &= delivery.awaitWritten(by);
        }
        return all;
    }

    /**
     * Accepts nothing more, writes what was accepted and ends the sinks' threads; false when that takes longer than the
     * limit or something could not be written. A second call does nothing.
     */
    public boolean close(Duration limit) {
        synchronized (this) {
            if (closed) {
                return true;
            }
            closed = true;
        }
        long by = System.nanoTime() + limit.toNanos();
        for (Delivery delivery : deliveries) {
            delivery.beginClose(by);
        }
        boolean all = true;
        try {
            for (Delivery delivery : deliveries) {
                all &= delivery.awaitClose();
            }
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
            return false;
        }
        return all;
    }

    /** Whether the thread is one that writes to a sink. */
    public static boolean isSinkThread(Thread thread) {
        return thread instanceof QueuedDelivery.SinkThread;
    }

    /** How many events were accepted so far. */
    public long accepted() {
        return sequence.get();
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
        return run;
    }

    /** Tells of a trouble of Graphema's own. */
    public void report(String trouble) {
        reporter.report(trouble);
    }

    /** How many events each sink has written, by its name. */
    public Map<String, Long> written() {
        return bySink(Delivery::written);
    }

    /** What went wrong last with each sink for which something did, by its name. */
    public Map<String, String> troubles() {
        Map<String, String> troubles = bySink(Delivery::lastTrouble);
        troubles.values().removeIf(Objects::isNull);
        return troubles;
    }

    private <T> Map<String, T> bySink(Function<Delivery, T> what) {
        Map<String, T> bySink = new LinkedHashMap<>();
        for (Delivery delivery : deliveries) {
            bySink.put(delivery.name(), what.apply(delivery));
        }
        return bySink;
    }

    /** How many events of which level each sink did not get because its queue was full or it could not write, by its name. */
    public Map<String, Map<Level, Long>> lost() {
        return bySink(Delivery::lost);
    }

    private Delivery delivery(String name, Target target, Builder builder) {
        return builder.synchronous
                ? new DirectDelivery(name, target)
                : new QueuedDelivery(
                        name,
                        target,
                        target.ring() == null
                                ? new MemoryHandover(builder.capacity)
                                : new DurableHandover(target.ring(), target.health()::trouble),
                        builder.longestWait,
                        losses -> lossEvent(name, losses));
    }

    private Event lossEvent(String sink, Map<Level, Long> losses) {
        long count = losses.values().stream().mapToLong(Long::longValue).sum();
        return new Draft()
                .time(Times.now())
                .level(Level.WARN)
                .service(service)
                .instance(instance)
                .logger("dev.graphema")
                .message("events lost")
                .fields(f -> f.put("sink", sink)
                        .put("count", count)
                        .group("levels", g -> losses.forEach((level, lost) -> g.put(level.text(), lost)))
                        .put("remedy", "thin or route away what is said most, or give the sink a faster target"))
                .run(run)
                .sequence(sequence.incrementAndGet())
                .finish();
    }

    private static Delivery known(String name, Map<String, Delivery> byName) {
        Delivery delivery = byName.get(name);
        if (delivery == null) {
            throw new IllegalArgumentException(
                    "a route leads to the sink \"" + name + "\": expected one of " + byName.keySet());
        }
        return delivery;
    }

    /**
     * A sink.
     *
     * @param threshold the least severe level that it gets
     * @param health notes what it does not get and what goes wrong
     * @param ring where events wait for it; null for the process's memory
     */
    record Target(int index, Sink sink, Level threshold, SinkHealth health, RingFile ring) {}

    /** Gathers the parts of a pipeline. */
    public static final class Builder {
        private static final int MOST_SINKS = Long.SIZE;

        private final Map<String, Target> targets = new LinkedHashMap<>();
        private final List<Route> routes = new ArrayList<>();
        private String service;
        private String instance;
        private Sampler sampler = Sampler.NONE;
        private Redactor redactor = Redactor.NONE;
        private Reporter reporter = Reporter.standardError();
        private int capacity = 8192;
        private Duration longestWait = Duration.ofSeconds(1);
        private boolean synchronous;
        private String run;

        private Builder() {}

        /** The name under which every event goes out; null for none. */
        public Builder service(String service) {
            this.service = service;
            return this;
        }

        /** What tells this run of the process from all others; null for none. */
        public Builder run(String run) {
            this.run = run;
            return this;
        }

        /** Which of the service's instances this is; null for none. */
        public Builder instance(String instance) {
            this.instance = instance;
            return this;
        }

        public Builder sampler(Sampler sampler) {
            this.sampler = sampler;
            return this;
        }

        public Builder redactor(Redactor redactor) {
            this.redactor = redactor;
            return this;
        }

        public Builder reporter(Reporter reporter) {
            this.reporter = reporter;
            return this;
        }

        /** How many events may wait for each sink: a power of two from 16 up. 8192 by default. */
        public Builder capacity(int capacity) {
            if (capacity < 16 || Integer.bitCount(capacity) != 1) {
                throw new IllegalArgumentException("capacity: " + capacity + " (expected: a power of two from 16 up)");
            }
            this.capacity = capacity;
            return this;
        }

        /**
         * Whether each event is written at once, by the caller's thread, which waits for the sink; false by default. For small
         * programs and tests.
         */
        public Builder synchronous(boolean synchronous) {
            this.synchronous = synchronous;
            return this;
        }

        /** How long a caller waits with a warning or worse while the queue is full. One second by default. */
        public Builder longestWait(Duration longestWait) {
            this.longestWait = longestWait;
            return this;
        }

        /** Adds a sink that gets events from the threshold up. */
        public Builder sink(String name, Sink sink, Level threshold) {
            return sink(name, sink, threshold, new SinkHealth(name, trouble -> reporter.report(trouble)), null);
        }

        /**
         * Adds a sink that gets events from the threshold up.
         *
         * @param health notes what the sink does not get, beside what it notes itself
         * @param ring where events wait, so that they survive the process's end; null for its memory. Closed with the sink
         */
        public Builder sink(String name, Sink sink, Level threshold, SinkHealth health, RingFile ring) {
            if (targets.size() == MOST_SINKS) {
                throw new IllegalArgumentException("more than " + MOST_SINKS + " sinks");
            }
            if (targets.putIfAbsent(name, new Target(targets.size(), sink, threshold, health, ring)) != null) {
                throw new IllegalArgumentException("two sinks are called \"" + name + "\"");
            }
            return this;
        }

        /** Adds a route. Without any, every event goes to every sink. */
        public Builder route(Route route) {
            routes.add(route);
            return this;
        }

        /** Makes the pipeline and starts the sinks' threads, if there are any. */
        public Pipeline start() {
            Pipeline pipeline = new Pipeline(this);
            for (Delivery delivery : pipeline.deliveries) {
                delivery.start();
            }
            return pipeline;
        }
    }
}
