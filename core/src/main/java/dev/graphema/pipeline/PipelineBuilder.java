package dev.graphema.pipeline;

import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBack;
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
import java.util.function.BiPredicate;

/** Gathers the parts of a pipeline. */
public final class PipelineBuilder {
    private static final int MOST_SINKS = Long.SIZE;

    private final Map<String, Pipeline.Target> targets = new LinkedHashMap<>();
    private final List<Route> routes = new ArrayList<>();
    private String service;
    private String instance;
    private Sampler sampler = Sampler.NONE;
    private Redactor redactor = Redactor.NONE;
    private Reporter reporter = Reporter.standardError();
    private int capacity = 8192;
    private Duration longestWait = Duration.ofSeconds(1);
    private boolean synchronous;
    private boolean firstMatch;
    private HoldBack holdBack = HoldBack.NONE;
    private boolean keepsHeld;
    private BiPredicate<String, Level> askedFor = (logger, level) -> false;
    private BiPredicate<String, Level> admits = (logger, level) -> true;
    private String run;

    PipelineBuilder() {}

    /** The name under which every event goes out; null for none. */
    public PipelineBuilder service(String service) {
        this.service = service;
        return this;
    }

    /** What tells this run of the process from all others; null for none. */
    public PipelineBuilder run(String run) {
        this.run = run;
        return this;
    }

    /** Which of the service's instances this is; null for none. */
    public PipelineBuilder instance(String instance) {
        this.instance = instance;
        return this;
    }

    public PipelineBuilder sampler(Sampler sampler) {
        this.sampler = sampler;
        return this;
    }

    public PipelineBuilder redactor(Redactor redactor) {
        this.redactor = redactor;
        return this;
    }

    public PipelineBuilder reporter(Reporter reporter) {
        this.reporter = reporter;
        return this;
    }

    /** How many events may wait for each sink: a power of two from 16 up. 8192 by default. */
    public PipelineBuilder capacity(int capacity) {
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
    public PipelineBuilder synchronous(boolean synchronous) {
        this.synchronous = synchronous;
        return this;
    }

    /** How long a caller waits with a warning or worse while the queue is full. One second by default. */
    public PipelineBuilder longestWait(Duration longestWait) {
        this.longestWait = longestWait;
        return this;
    }

    /** Adds a sink that gets events from the threshold up. */
    public PipelineBuilder sink(String name, Sink sink, Level threshold) {
        return sink(name, sink, threshold, new SinkHealth(name, trouble -> reporter.report(trouble)), null, false);
    }

    /**
     * Adds a sink that gets events from the threshold up.
     *
     * @param health notes what the sink does not get, beside what it notes itself
     * @param ring where events wait, so that they survive the process's end; null for its memory. Closed with the sink
     * @param waits whether it begins to write only when the sinks that it replaces have ended
     */
    public PipelineBuilder sink(
            String name, Sink sink, Level threshold, SinkHealth health, RingFile ring, boolean waits) {
        return target(name, new Pipeline.Target(sink, threshold, health, ring, waits));
    }

    /** Keeps a sink that the pipeline has, and all that waits for it; for {@link Pipeline#replace}. */
    public PipelineBuilder keep(String name, Level threshold) {
        return target(name, new Pipeline.Target(null, threshold, null, null, false));
    }

    private PipelineBuilder target(String name, Pipeline.Target target) {
        if (targets.size() == MOST_SINKS) {
            throw new IllegalArgumentException("more than " + MOST_SINKS + " sinks");
        }
        if (targets.putIfAbsent(name, target) != null) {
            throw new IllegalArgumentException("two sinks are called \"" + name + "\"");
        }
        return this;
    }

    /** Whether an event goes by the first route that takes it alone; false by default: by every one. */
    public PipelineBuilder firstMatch(boolean firstMatch) {
        this.firstMatch = firstMatch;
        return this;
    }

    /** Whether the thresholds let an event of that logger and level in; asked when they have just changed. */
    public PipelineBuilder admits(BiPredicate<String, Level> admits) {
        this.admits = admits;
        return this;
    }

    /** What keeps detail in memory; nothing does by default. */
    public PipelineBuilder holdBack(HoldBack holdBack) {
        this.holdBack = holdBack;
        return this;
    }

    /** Whether what the pipeline holds back stays held, by what it has for that; for {@link Pipeline#replace}. */
    public PipelineBuilder keepHeld(boolean keepsHeld) {
        this.keepsHeld = keepsHeld;
        return this;
    }

    boolean keepsHeld() {
        return keepsHeld;
    }

    /** Whether somebody asked for events of that logger and level just now, so that they are not held back. */
    public PipelineBuilder askedFor(BiPredicate<String, Level> askedFor) {
        this.askedFor = askedFor;
        return this;
    }

    HoldBack holdBack() {
        return holdBack;
    }

    BiPredicate<String, Level> askedFor() {
        return askedFor;
    }

    /** The sinks by name, in the order in which they were added. */
    Map<String, Pipeline.Target> targets() {
        return targets;
    }

    Reporter reporter() {
        return reporter;
    }

    String run() {
        return run;
    }

    int capacity() {
        return capacity;
    }

    Duration longestWait() {
        return longestWait;
    }

    boolean synchronous() {
        return synchronous;
    }

    String service() {
        return service;
    }

    String instance() {
        return instance;
    }

    BiPredicate<String, Level> admits() {
        return admits;
    }

    Sampler sampler() {
        return sampler;
    }

    Redactor redactor() {
        return redactor;
    }

    boolean firstMatch() {
        return firstMatch;
    }

    List<Route> routes() {
        return routes;
    }

    /** Adds a route. Without any, every event goes to every sink. */
    public PipelineBuilder route(Route route) {
        routes.add(route);
        return this;
    }

    /** Makes the pipeline and starts the sinks' threads, if there are any. */
    public Pipeline start() {
        Pipeline pipeline = new Pipeline(this);
        pipeline.deliveries().forEach(Delivery::start);
        return pipeline;
    }
}
