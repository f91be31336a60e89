package dev.graphema.pipeline;

import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBack;
import dev.graphema.redaction.Redactor;
import dev.graphema.sampling.Sampler;
import dev.graphema.sink.Route;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkHealth;
import dev.graphema.spool.Ring;
import dev.graphema.spool.RingFile;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiPredicate;

/** Builds a pipeline. */
public final class PipelineBuilder {
    private static final int MOST_SINKS = Long.SIZE;

    private final Map<String, Pipeline.Target> targets = new LinkedHashMap<>();
    private final List<Route> routes = new ArrayList<>();
    private String service;
    private String instance;
    private Sampler sampler = Sampler.NONE;
    private Redactor redactor = Redactor.NONE;
    private Reporter reporter = Reporter.standardError();
    private int queueBytes = MemoryHandover.USUAL_CAPACITY;
    private Duration longestWait = Duration.ofSeconds(1);
    private boolean synchronous;
    private boolean firstMatch;
    private HoldBack holdBack = HoldBack.NONE;
    private boolean keepsHeld;
    private BiPredicate<String, Level> askedFor = (logger, level) -> false;
    private BiPredicate<String, Level> admits = (logger, level) -> true;
    private String run;

    PipelineBuilder() {}

    /** Sets the name of the service, part of every event; null for none. */
    public PipelineBuilder service(String service) {
        this.service = service;
        return this;
    }

    /** Sets the id of this run of the process; null for none. */
    public PipelineBuilder run(String run) {
        this.run = run;
        return this;
    }

    /** Sets the name of the instance; null for none. */
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

    /**
     * Sets the size of the queue of each sink, in bytes: a power of two, 65536 or more. Default: {@value
     * MemoryHandover#USUAL_CAPACITY}, for about ten thousand events.
     */
    public PipelineBuilder queueBytes(int bytes) {
        this.queueBytes = Ring.checked(bytes);
        return this;
    }

    /**
     * Sets whether the calling thread writes each event and waits for the sink; false by default. For small programs
     * and tests.
     */
    public PipelineBuilder synchronous(boolean synchronous) {
        this.synchronous = synchronous;
        return this;
    }

    /** Sets how long a caller waits with an event at level warn or above while a queue is full. Default: one second. */
    public PipelineBuilder longestWait(Duration longestWait) {
        this.longestWait = longestWait;
        return this;
    }

    /** Adds a sink for events at the threshold and above. */
    public PipelineBuilder sink(String name, Sink sink, Level threshold) {
        return sink(name, sink, threshold, new SinkHealth(name, error -> reporter.report(error)), null, false);
    }

    /**
     * Adds a sink for events at the threshold and above.
     *
     * @param health records losses, in addition to those that the sink records
     * @param ring the file in which events wait, so that they survive the end of the process; null for memory. Closed
     *     with the sink
     * @param waits whether it starts only after the sinks that it replaces are closed
     */
    public PipelineBuilder sink(
            String name, Sink sink, Level threshold, SinkHealth health, RingFile ring, boolean waits) {
        return target(name, new Pipeline.Target(sink, threshold, health, ring, waits));
    }

    /** Keeps a sink of the pipeline with its queue; for {@link Pipeline#replace}. */
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

    /** Sets whether only the first matching route applies; false by default. */
    public PipelineBuilder firstMatch(boolean firstMatch) {
        this.firstMatch = firstMatch;
        return this;
    }

    /** Sets the thresholds; evaluated for events that were accepted by earlier thresholds. */
    public PipelineBuilder admits(BiPredicate<String, Level> admits) {
        this.admits = admits;
        return this;
    }

    /** Sets the hold-back; none by default. */
    public PipelineBuilder holdBack(HoldBack holdBack) {
        this.holdBack = holdBack;
        return this;
    }

    /** Sets whether held-back events are kept; for {@link Pipeline#replace}. */
    public PipelineBuilder keepHeld(boolean keepsHeld) {
        this.keepsHeld = keepsHeld;
        return this;
    }

    boolean keepsHeld() {
        return keepsHeld;
    }

    /** Sets which events were requested at run time, and so are not held back. */
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

    /** Returns the sinks by name, in the order in which they were added. */
    Map<String, Pipeline.Target> targets() {
        return targets;
    }

    Reporter reporter() {
        return reporter;
    }

    String run() {
        return run;
    }

    int queueBytes() {
        return queueBytes;
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

    /** Adds a route. Without routes, every event is written to every sink. */
    public PipelineBuilder route(Route route) {
        routes.add(route);
        return this;
    }

    /** Creates the pipeline and starts the threads of its sinks. */
    public Pipeline start() {
        Pipeline pipeline = new Pipeline(this);
        pipeline.deliveries().forEach(Delivery::start);
        return pipeline;
    }
}
