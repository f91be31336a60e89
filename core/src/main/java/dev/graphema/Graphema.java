package dev.graphema;

import dev.graphema.background.BackgroundThreads;
import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.explain.Explainer;
import dev.graphema.explain.Explanation;
import dev.graphema.failure.FailurePolicy;
import dev.graphema.holdback.HoldBack;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsSource;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A runtime: receives the events of the loggers and writes them, until it is closed.
 *
 * <pre>{@code
 * try (Graphema graphema = Graphema.start(Path.of("graphema.yaml"))) {
 *     ...
 * }
 * }</pre>
 *
 * <p>A started runtime receives the events of all loggers of {@link Logger#of} and {@link Logger#named}, including those that were
 * created before. If several runtimes are open, the latest one receives them. An {@link #isolated} runtime has its own loggers, for
 * tests and plug-ins. If the process ends without closing the runtime, a shutdown hook writes all accepted events; events that
 * other shutdown hooks emit later are written immediately, until the JVM halts. Events after {@link #close} are counted, and
 * printed on standard error at level warn and above.
 *
 * <p>Thread-safe.
 */
public final class Graphema implements AutoCloseable {
    private static final Duration CLOSE_LIMIT = Duration.ofSeconds(10);

    private final LoggerTree tree;
    private final Pipeline pipeline;
    private final Receiver receiver;
    private final Thread hook;
    private final Management management;
    private final SettingsSource source;
    private final SettingsWatch watch;
    private final Object changing = new Object();

    // Written under the lock changing; readers see the latest value.
    private volatile InForce inForce;

    /** Guarded by changing. */
    private boolean closed;

    /** The current settings, and since when they are in effect. */
    private record InForce(
            Settings settings, Map<String, PipelineAssembly.Part> parts, Instant since, String lastRefusal) {}

    private Graphema(LoggerTree tree, Settings settings, SettingsSource source) {
        this.tree = tree;
        this.source = source;
        PipelineAssembly.Assembled assembled =
                PipelineAssembly.assemble(settings, (logger, level) -> admits(settings, logger, level));
        this.pipeline =
                assembled.pipeline().askedFor(tree.steering()::isAskedFor).start();
        this.receiver = new PipelineReceiver(pipeline);
        this.inForce = new InForce(settings, assembled.parts(), Instant.now(), null);
        this.hook = BackgroundThreads.prepared(new Thread(null, this::drain, "graphema-shutdown", 0, false));
        Runtime.getRuntime().addShutdownHook(hook);
        tree.connect(receiver, settings, pipeline.generation(), pipeline::keepsTrace);
        this.management = Management.show(this, pipeline);
        this.watch = source == null || settings.watchEvery().isZero()
                ? null
                : SettingsWatch.start(
                        settings.watchEvery(),
                        source,
                        this::reloadAndTell,
                        problem -> pipeline.report("the settings " + source + " could not be watched: " + problem));
    }

    /**
     * Starts a runtime with the file that the system property {@code graphema.settings} names, else the environment variable {@code
     * GRAPHEMA_SETTINGS}, else {@code graphema.yaml} on the class path, or, without any of them, with the default settings.
     *
     * @throws IOException if the file cannot be read
     * @throws dev.graphema.settings.SettingsException if the file has errors; lists all of them
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     */
    public static Graphema start() throws IOException {
        Optional<SettingsSource> found = SettingsSource.find();
        return found.isPresent() ? start(found.get()) : start(Settings.builder().build());
    }

    /**
     * Starts a runtime with the settings of a YAML file, see {@link dev.graphema.settings.SettingsFile}. The file is watched: a change
     * takes effect as a whole or, if the file has errors, not at all.
     *
     * @throws IOException if the file cannot be read
     * @throws dev.graphema.settings.SettingsException if the file has errors; lists all of them
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     */
    public static Graphema start(Path file) throws IOException {
        return start(SettingsSource.of(file));
    }

    /**
     * As above, with settings that the program provides before the file is read: custom sinks, to which the file can route, values for
     * formats, and defaults.
     */
    public static Graphema start(Path file, Consumer<Settings.Builder> given) throws IOException {
        return start(SettingsSource.of(file).with(given));
    }

    private static Graphema start(SettingsSource source) throws IOException {
        return new Graphema(LoggerTree.SHARED, source.read(), source);
    }

    /**
     * Starts a runtime with the given settings.
     *
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     */
    public static Graphema start(Settings settings) {
        return new Graphema(LoggerTree.SHARED, settings, null);
    }

    /** Starts a runtime with settings defined in code. As {@link #start(Settings)}. */
    public static Graphema build(Consumer<Settings.Builder> settings) {
        return start(built(settings));
    }

    /** Starts a runtime that receives only the events of the loggers that its method {@link #logger} returns. */
    public static Graphema isolated(Consumer<Settings.Builder> settings) {
        return new Graphema(new LoggerTree(), built(settings), null);
    }

    /** Returns the logger with this name whose events this runtime receives. */
    public Logger logger(String name) {
        return tree.logger(name);
    }

    /** Returns the logger with the name of the class whose events this runtime receives. */
    public Logger logger(Class<?> type) {
        return logger(type.getName());
    }

    /** As {@link Correlation#begin}, with the settings of this runtime. */
    public Scope begin() {
        return Correlation.begin(tree);
    }

    /** As {@link Correlation#resume}, with the settings of this runtime. */
    public Scope resume(UnaryOperator<String> headers) {
        return Correlation.resume(tree, headers);
    }

    /** Returns the current settings. */
    public Settings settings() {
        return inForce.settings();
    }

    /** Returns since when the current settings are in effect. */
    public Instant since() {
        return inForce.since();
    }

    /** Returns why the last change of the settings was rejected; null if it was not. */
    public String lastRefusal() {
        return inForce.lastRefusal();
    }

    /**
     * Reads the settings file again and applies it. If this throws an exception, the current settings remain in effect.
     *
     * @throws IllegalStateException if the settings were defined in code, or the runtime is closed
     * @throws IOException if the file cannot be read
     * @throws dev.graphema.settings.SettingsException if the file has errors
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     */
    public void reload() throws IOException {
        if (source == null) {
            throw new IllegalStateException("the settings were made by code: call reload with new ones");
        }
        try {
            reload(source.read());
        } catch (IOException | GraphemaException e) {
            synchronized (changing) {
                InForce now = inForce;
                inForce = new InForce(now.settings(), now.parts(), now.since(), Instant.now() + " " + e.getMessage());
            }
            throw e;
        }
    }

    /**
     * Applies other settings as a whole. Every event is processed by either the old or the new settings, and none is lost or doubled.
     * Sinks in both settings are not changed. Waits at most ten seconds for removed sinks to write their events. If this throws an
     * exception, the current settings remain in effect.
     *
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     * @throws IllegalStateException if the runtime is closed
     */
    public void reload(Settings settings) {
        synchronized (changing) {
            if (closed) {
                throw new IllegalStateException("this Graphema is closed: start another one");
            }
            InForce before = inForce;
            PipelineAssembly.Assembled assembled = PipelineAssembly.again(
                    settings, before.settings(), before.parts(), (logger, level) -> admits(settings, logger, level));
            try {
                pipeline.replace(assembled.pipeline().askedFor(tree.steering()::isAskedFor), () -> {
                    inForce = new InForce(settings, assembled.parts(), Instant.now(), null);
                    tree.change(receiver, settings, pipeline.generation(), pipeline::keepsTrace);
                });
            } catch (RuntimeException e) {
                assembled.discard(e);
                throw e;
            }
        }
    }

    private void reloadAndTell() {
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
     * Whether the thresholds of these settings, or those set at run time, accept an event. Each configuration of the pipeline uses its
     * own settings, because others may already be in effect.
     */
    private boolean admits(Settings settings, String logger, Level level) {
        Map.Entry<String, RuntimeThresholds.Timed> byHand = tree.steering().byHand(logger);
        Level threshold = byHand != null
                ? byHand.getValue().level()
                : settings.thresholds().of(logger);
        return level.passes(threshold) || tree.steering().isRaised(level);
    }

    /**
     * Sets the threshold of a branch of loggers for a limited time. It overrides the settings for the whole branch, and remains in effect
     * if the settings change.
     *
     * @param branch the dotted name of a logger, which includes all names below; "" for all loggers
     * @throws IllegalArgumentException if the time is not positive or longer than a year
     */
    public void threshold(String branch, Level threshold, Duration time) {
        tree.steering().set(branch, threshold, time);
    }

    /** Resets what {@link #threshold(String, Level, Duration)} has set. @return whether a threshold was set for this branch */
    public boolean resetThreshold(String branch) {
        return tree.steering().reset(branch);
    }

    /** Resets all thresholds and detail that were set at run time. */
    public void resetByHand() {
        tree.steering().resetAll();
    }

    /** Describes the thresholds and detail that were set at run time and are still in effect, one per line. */
    public List<String> byHand() {
        return tree.steering().byHand();
    }

    /**
     * Raises detail for a target for a limited time: events in a context that matches the condition are accepted from this level on,
     * independent of thresholds, in this service and in called services that {@linkplain Settings.Builder#detailFromCallers allow it}.
     *
     * <p>During this time, an event below its threshold requires a check of the context; otherwise, it costs one comparison.
     *
     * @param target a condition on the fields of the context, or {@code trace}
     * @throws IllegalArgumentException if the time is not positive or longer than a year
     */
    public void raise(Condition target, Level from, Duration time) {
        tree.steering().raise(target, from, time);
    }

    /** Returns the current threshold of the logger. */
    public Level threshold(String logger) {
        return tree.steering().of(logger);
    }

    /**
     * Explains how an event of the logger would currently be processed.
     *
     * @param fields adds its fields, including those of the context
     */
    public Explanation explain(String logger, Level level, Consumer<? super FieldWriter> fields) {
        return new Explainer(settings(), this::setByHand).explain(logger, level, fields);
    }

    private Explainer.ByHand setByHand(String logger) {
        Map.Entry<String, RuntimeThresholds.Timed> byHand = tree.steering().byHand(logger);
        if (byHand == null) {
            return null;
        }
        String branch = byHand.getKey().isEmpty() ? "every logger" : byHand.getKey();
        return new Explainer.ByHand(
                byHand.getValue().level(),
                "for " + branch + " until " + byHand.getValue().until());
    }

    /** Waits until all events emitted so far are written. @return false if this takes longer than the limit */
    public boolean flush(Duration limit) {
        return pipeline.flush(limit);
    }

    /** Returns the number of accepted events. */
    public long accepted() {
        return pipeline.accepted();
    }

    /**
     * Returns the number of events that could not be created or processed because a condition, a rule or Graphema failed. A value that
     * throws an exception affects only its field.
     */
    public long refused() {
        return pipeline.refused() + tree.refusedWithoutStack;
    }

    /**
     * Returns the number of texts that were withheld since the settings took effect. A text is withheld if a detector or treatment fails,
     * because it may contain a secret.
     */
    public long withheld() {
        return pipeline.withheld();
    }

    /** Returns the number of events after the runtime was closed. Those at level warn and above were printed on standard error. */
    public long late() {
        return pipeline.late();
    }

    /**
     * Returns how many events each sampling rule has dropped since the settings took effect, by its number, from 1, and its text.
     */
    public Map<String, Long> thinned() {
        List<Long> dropped = pipeline.thinned();
        Settings now = settings();
        Map<String, Long> thinned = new LinkedHashMap<>();
        for (int i = 0; i < Math.min(dropped.size(), now.sampling().size()); i++) {
            SamplingRule rule = now.sampling().get(i);
            thinned.put(
                    i + 1 + ": " + rule.keep().text() + " of "
                            + (rule.when().isEverything() ? "everything" : rule.when()),
                    dropped.get(i));
        }
        return thinned;
    }

    /** Returns the counts of held-back events since the settings took effect. */
    public HoldBack.Held held() {
        return pipeline.held();
    }

    /** Returns the number of events that each sink has written, by name of the sink. */
    public Map<String, Long> written() {
        return pipeline.written();
    }

    /** Returns the number of lost events by sink and level: the queue was full, or the sink could not write. */
    public Map<String, Map<Level, Long>> lost() {
        return pipeline.lost();
    }

    /** Writes all accepted events and closes the runtime, within ten seconds. A second call waits for the first one. */
    @Override
    public void close() {
        close(CLOSE_LIMIT);
    }

    /**
     * Writes all accepted events and closes the runtime. A concurrent call waits for the first one. When this returns, no event is queued or
     * in flight; events that could not be written are counted by {@link #lost}.
     *
     * @return false if this took longer than the limit, or an event could not be written
     */
    public boolean close(Duration limit) {
        endWatching();
        synchronized (changing) {
            closed = true;
        }
        tree.disconnect(receiver, new AfterEnd(pipeline, new BeforeStart(System.err)));
        boolean complete = pipeline.close(limit);
        management.hide();
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
        tree.tellOpenOperations();
    }

    /**
     * The process ends before or while the runtime is closed. Other shutdown hooks run concurrently and may emit events until the JVM
     * halts, so the sinks stay open.
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

    private static Settings built(Consumer<Settings.Builder> settings) {
        Settings.Builder builder = Settings.builder();
        settings.accept(builder);
        return builder.build();
    }
}
