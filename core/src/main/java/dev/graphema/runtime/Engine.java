package dev.graphema.runtime;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.explain.Explainer;
import dev.graphema.explain.Explanation;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/**
 * A running Graphema: connects the loggers of a tree with a pipeline, applies changes of the settings, and ends in an orderly
 * way, also when the process ends. Thread-safe.
 */
public final class Engine {
    /** The longest time in which the engine ends. */
    public static final Duration CLOSE_LIMIT = Duration.ofSeconds(10);

    private final LoggerTree tree;
    private final Pipeline pipeline;
    private final Receiver receiver;
    private final Thread hook;
    private final SettingsSource source;
    private final SettingsWatch watch;
    private final Consumer<Object> neverEnded;
    private final Consumer<String> changed;
    private final Object changing = new Object();

    // Written under the lock changing; readers see the latest value.
    private volatile InEffect inEffect;

    /** Guarded by changing. */
    private boolean closed;

    /** The current settings, and since when they are in effect. */
    private record InEffect(
            Settings settings, Map<String, PipelineAssembly.Part> parts, Instant since, String lastRefusal) {}

    /**
     * Starts.
     *
     * @param source where the settings come from, to be watched and read again; null for settings from code
     * @param neverEnded receives each operation that is still open at the end
     * @param changed receives the name of the source after its settings have been read again and have taken effect
     * @throws GraphemaException if a sink cannot be opened
     */
    public Engine(
            LoggerTree tree,
            Settings settings,
            SettingsSource source,
            Consumer<Object> neverEnded,
            Consumer<String> changed) {
        this.tree = tree;
        this.source = source;
        this.neverEnded = neverEnded;
        this.changed = changed;
        PipelineAssembly.Assembled assembled =
                PipelineAssembly.assemble(settings, (logger, level) -> admits(settings, logger, level));
        this.pipeline =
                assembled.pipeline().askedFor(tree.thresholds()::isAskedFor).start();
        this.receiver = new PipelineReceiver(pipeline);
        this.inEffect = new InEffect(settings, assembled.parts(), Instant.now(), null);
        this.hook = BackgroundThreads.prepared(new Thread(null, this::drain, "graphema-shutdown", 0, false));
        Runtime.getRuntime().addShutdownHook(hook);
        tree.connect(receiver, settings, assembled.redactor(), pipeline.generation(), pipeline::keepsTrace);
        this.watch = source == null || settings.watchEvery().isZero()
                ? null
                : SettingsWatch.start(
                        settings.watchEvery(),
                        source,
                        this::reloadAndReport,
                        problem -> pipeline.report("the settings " + source + " could not be watched: " + problem));
    }

    /** Returns the loggers. */
    public LoggerTree tree() {
        return tree;
    }

    /** Returns the pipeline, for its counts. */
    public Pipeline pipeline() {
        return pipeline;
    }

    /** Returns the current settings. */
    public Settings settings() {
        return inEffect.settings();
    }

    /** Returns since when the current settings are in effect. */
    public Instant since() {
        return inEffect.since();
    }

    /** Returns why the last change of the settings was rejected; null if it was not. */
    public String lastRefusal() {
        return inEffect.lastRefusal();
    }

    /** Reads the settings again and applies them. */
    public void reload() throws IOException {
        if (source == null) {
            throw new IllegalStateException("the settings were made by code: call reload with new ones");
        }
        try {
            reload(source.read());
            changed.accept(source.toString());
        } catch (IOException | GraphemaException e) {
            synchronized (changing) {
                InEffect now = inEffect;
                inEffect = new InEffect(now.settings(), now.parts(), now.since(), Instant.now() + " " + e.getMessage());
            }
            throw e;
        }
    }

    /** Applies other settings as a whole. */
    public void reload(Settings settings) {
        synchronized (changing) {
            if (closed) {
                throw new IllegalStateException("this Graphema is closed: start another one");
            }
            InEffect before = inEffect;
            PipelineAssembly.Assembled assembled = PipelineAssembly.again(
                    settings, before.settings(), before.parts(), (logger, level) -> admits(settings, logger, level));
            try {
                pipeline.replace(assembled.pipeline().askedFor(tree.thresholds()::isAskedFor), () -> {
                    inEffect = new InEffect(settings, assembled.parts(), Instant.now(), null);
                    tree.change(receiver, settings, assembled.redactor(), pipeline.generation(), pipeline::keepsTrace);
                });
            } catch (RuntimeException e) {
                assembled.discard(e);
                throw e;
            }
        }
    }

    private void reloadAndReport() {
        try {
            reload();
            pipeline.report("the settings " + source + " have changed and have taken effect");
        } catch (IllegalStateException e) {
            return; // closed meanwhile
        } catch (IOException | GraphemaException e) {
            pipeline.report("the settings " + source + " have changed but are rejected; those of " + since()
                    + " remain in effect:\n" + e.getMessage());
        }
    }

    /**
     * Whether the thresholds of these settings, or those set at run time, accept an event. Each configuration of the pipeline
     * uses its own settings, because others may already be in effect.
     */
    private boolean admits(Settings settings, String logger, Level level) {
        Map.Entry<String, RuntimeThresholds.Timed> byHand = tree.thresholds().byHand(logger);
        Level threshold = byHand != null
                ? byHand.getValue().level()
                : settings.thresholds().of(logger);
        return level.passes(threshold) || tree.thresholds().isRaised(level);
    }

    /** Explains how an event of the logger would currently be processed. */
    public Explanation explain(String logger, Level level, Consumer<? super FieldWriter> fields) {
        return new Explainer(settings(), this::setByHand).explain(logger, level, fields);
    }

    private Explainer.ByHand setByHand(String logger) {
        Map.Entry<String, RuntimeThresholds.Timed> byHand = tree.thresholds().byHand(logger);
        if (byHand == null) {
            return null;
        }
        String branch = byHand.getKey().isEmpty() ? "every logger" : byHand.getKey();
        return new Explainer.ByHand(
                byHand.getValue().level(),
                "for " + branch + " until " + byHand.getValue().until());
    }

    /** Returns the number of events that could not be created or processed. */
    public long refused() {
        return pipeline.refused() + tree.refusedWithoutStack;
    }

    /** Returns how many events each sampling rule has dropped since the settings took effect. */
    public Map<String, Long> droppedBySampling() {
        List<Long> dropped = pipeline.droppedBySampling();
        Settings now = settings();
        Map<String, Long> droppedBySampling = new LinkedHashMap<>();
        for (int i = 0; i < Math.min(dropped.size(), now.sampling().size()); i++) {
            SamplingRule rule = now.sampling().get(i);
            droppedBySampling.put(
                    i + 1 + ": " + rule.keep().text() + " of "
                            + (rule.when().isEverything() ? "everything" : rule.when()),
                    dropped.get(i));
        }
        return droppedBySampling;
    }

    /**
     * Writes all accepted events and ends.
     *
     * @return false if an event could not be written in time
     */
    public boolean close(Duration limit) {
        endWatching();
        synchronized (changing) {
            closed = true;
        }
        tree.disconnect(receiver, new AfterEnd(pipeline, new BeforeStart(System.err)));
        boolean complete = pipeline.close(limit);
        if (Thread.currentThread() != hook) {
            try {
                Runtime.getRuntime().removeShutdownHook(hook);
            } catch (IllegalStateException e) {
                return complete; // the process is ending: the hook runs and has nothing to do
            }
        }
        return complete;
    }

    private void endWatching() {
        if (watch != null) {
            watch.close();
        }
        tree.openOperations(neverEnded);
    }

    /**
     * The process ends before or while the engine is closed. Other shutdown hooks run concurrently and may emit events until
     * the JVM halts, so the sinks stay open.
     */
    private void drain() {
        FailurePolicy.inBackground(
                () -> {
                    endWatching();
                    pipeline.drain(CLOSE_LIMIT);
                },
                problem -> pipeline.report("what was logged last could not be written: " + problem));
    }

    private record PipelineReceiver(Pipeline pipeline) implements Receiver {
        @Override
        public void accept(Draft draft, long admittedBy) {
            pipeline.accept(draft, admittedBy);
        }

        @Override
        public void refuse(Throwable problem) {
            pipeline.refuse(problem);
        }
    }
}
