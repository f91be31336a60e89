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
 * A running Graphema: it takes what the loggers say and writes it, until it is closed.
 *
 * <pre>{@code
 * try (Graphema graphema = Graphema.start(Path.of("graphema.yaml"))) {
 *     ...
 * }
 * }</pre>
 *
 * <p>One that is started takes over the loggers of {@link Logger#of} and {@link Logger#named}, those made earlier included;
 * the latest one has them. An {@link #isolated} one has loggers of its own, for tests and plug-ins. When the process ends
 * without closing it, a shutdown hook writes what was accepted; what the program's other hooks log after that is written at
 * once, until the JVM halts. What is logged after {@link #close} is counted, and shown on standard error when it is a warning
 * or worse.
 *
 * <p>Safe to share between threads.
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

    // Guarded by changing; read without it where the latest is good enough.
    private volatile InForce inForce;

    /** Guarded by changing. */
    private boolean closed;

    /** What is in force, and since when. */
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
     * Starts with the settings that are found: the file that the system property {@code graphema.settings} names, else the
     * environment variable {@code GRAPHEMA_SETTINGS}, else {@code graphema.yaml} on the class path; without any of them, with
     * the defaults.
     *
     * @throws IOException when the file that is named cannot be read
     * @throws dev.graphema.settings.SettingsException when something in it is wrong; it lists every problem
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened
     */
    public static Graphema start() throws IOException {
        Optional<SettingsSource> found = SettingsSource.find();
        return found.isPresent() ? start(found.get()) : start(Settings.builder().build());
    }

    /**
     * Starts with the settings of a YAML file, see {@link dev.graphema.settings.SettingsFile}. The file is watched: a change
     * comes into force whole or, when something in it is wrong, not at all.
     *
     * @throws IOException when the file cannot be read
     * @throws dev.graphema.settings.SettingsException when something in it is wrong; it lists every problem
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened
     */
    public static Graphema start(Path file) throws IOException {
        return start(SettingsSource.of(file));
    }

    /**
     * As above, with what the program gives before the file is read: sinks of its own, to which the file's routes may lead,
     * values for formats, and defaults.
     */
    public static Graphema start(Path file, Consumer<Settings.Builder> given) throws IOException {
        return start(SettingsSource.of(file).with(given));
    }

    private static Graphema start(SettingsSource source) throws IOException {
        return new Graphema(LoggerTree.SHARED, source.read(), source);
    }

    /**
     * Starts with the given settings.
     *
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened
     */
    public static Graphema start(Settings settings) {
        return new Graphema(LoggerTree.SHARED, settings, null);
    }

    /** Starts with settings made by code. As {@link #start(Settings)}. */
    public static Graphema build(Consumer<Settings.Builder> settings) {
        return start(built(settings));
    }

    /** Starts a runtime that leaves all other loggers alone: only those of {@link #logger} say something to it. */
    public static Graphema isolated(Consumer<Settings.Builder> settings) {
        return new Graphema(new LoggerTree(), built(settings), null);
    }

    /** The logger of that name whose events this runtime takes. */
    public Logger logger(String name) {
        return tree.logger(name);
    }

    /** The logger named after the class whose events this runtime takes. */
    public Logger logger(Class<?> type) {
        return logger(type.getName());
    }

    /** As {@link Correlation#begin}, by the settings of this runtime. */
    public Scope begin() {
        return Correlation.begin(tree);
    }

    /** As {@link Correlation#resume}, by the settings of this runtime. */
    public Scope resume(UnaryOperator<String> headers) {
        return Correlation.resume(tree, headers);
    }

    /** The settings in force. */
    public Settings settings() {
        return inForce.settings();
    }

    /** Since when these settings are in force. */
    public Instant since() {
        return inForce.since();
    }

    /** Why the last change of the settings was refused; null when it was not. */
    public String lastRefusal() {
        return inForce.lastRefusal();
    }

    /**
     * Reads the settings file again, and goes by it from now on.
     *
     * @throws IllegalStateException when the settings were made by code
     * @throws IOException when the file cannot be read
     * @throws dev.graphema.settings.SettingsException when something in it is wrong
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened. After any of these, the settings in force
     *     are what they were
     * @throws IllegalStateException also when this is closed
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
     * Goes by other settings from now on, whole or not at all. Every event goes by the old ones or by the new ones, none by a
     * mixture; none is lost or doubled. Sinks that both have are not touched. Waits until the sinks that go have written what
     * they got, for ten seconds at the most.
     *
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened; the settings in force are what they were then
     * @throws IllegalStateException when this is closed
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
            pipeline.report("the settings " + source + " have changed and are in force");
        } catch (IllegalStateException e) {
            return; // closed meanwhile
        } catch (IOException | GraphemaException e) {
            pipeline.report("the settings " + source + " have changed and are refused; those of " + since()
                    + " stay in force:\n" + e.getMessage());
        }
    }

    /**
     * Whether the thresholds of those settings, or what was set by hand, let an event in. Each plan asks its own settings: by the
     * time it does, others may be in force already.
     */
    private boolean admits(Settings settings, String logger, Level level) {
        Map.Entry<String, RuntimeThresholds.Timed> byHand = tree.steering().byHand(logger);
        Level threshold = byHand != null
                ? byHand.getValue().level()
                : settings.thresholds().of(logger);
        return level.passes(threshold) || tree.steering().isRaised(level);
    }

    /**
     * Sets the threshold of a whole branch of loggers by hand; it goes back by itself when the time is over. It holds also where
     * the settings refine the branch, and survives a change of the settings.
     *
     * @param branch a logger's dotted name, which stands for all below it, too; "" for every logger
     * @throws IllegalArgumentException when the time is nothing or more than a year
     */
    public void threshold(String branch, Level threshold, Duration time) {
        tree.steering().set(branch, threshold, time);
    }

    /** Takes back what {@link #threshold(String, Level, Duration)} set. @return whether something was set for that branch */
    public boolean resetThreshold(String branch) {
        return tree.steering().reset(branch);
    }

    /** Takes back everything that was set or raised by hand. */
    public void resetByHand() {
        tree.steering().resetAll();
    }

    /** What was set or raised by hand and is still in force, as lines for people. */
    public List<String> byHand() {
        return tree.steering().byHand();
    }

    /**
     * Raises detail for a target, for a limited time: whatever is said in a context that meets the condition is let in from that
     * level on, whatever the thresholds are, here and, when they {@linkplain Settings.Builder#detailFromCallers allow it}, in
     * the services that are called.
     *
     * <p>Meanwhile an event below its threshold costs a look at the context; afterwards one comparison again.
     *
     * @param target a condition over the fields of the context, or {@code trace}
     * @throws IllegalArgumentException when the time is nothing or more than a year
     */
    public void raise(Condition target, Level from, Duration time) {
        tree.steering().raise(target, from, time);
    }

    /** The threshold of that logger now. */
    public Level threshold(String logger) {
        return tree.steering().of(logger);
    }

    /**
     * What would become of an event that the logger says now, and why.
     *
     * @param fields puts its fields, those of the context included
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

    /** Waits until what was said so far is written; false when that takes longer than the limit. */
    public boolean flush(Duration limit) {
        return pipeline.flush(limit);
    }

    /** How many events were accepted so far. */
    public long accepted() {
        return pipeline.accepted();
    }

    /**
     * How many events could not be made or processed, because a condition, a rule or Graphema itself failed. What fails in
     * the program's own values costs a field and no event.
     */
    public long refused() {
        return pipeline.refused() + tree.refusedWithoutStack;
    }

    /**
     * How many texts were withheld since the settings took effect: when a detector or a treatment fails, nobody can tell
     * whether the text contains a secret.
     */
    public long withheld() {
        return pipeline.withheld();
    }

    /** How many events came after the end. Of them, warnings and worse went to standard error, as before the start. */
    public long late() {
        return pipeline.late();
    }

    /**
     * How many events each sampling rule has dropped since the settings came into force, by its number, from 1, and what it says.
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

    /** What is held back, and what became of what was since the settings came into force. */
    public HoldBack.Held held() {
        return pipeline.held();
    }

    /** How many events each sink has written, by its name. */
    public Map<String, Long> written() {
        return pipeline.written();
    }

    /** How many events of which level each sink did not get because its queue was full or it could not write, by its name. */
    public Map<String, Map<Level, Long>> lost() {
        return pipeline.lost();
    }

    /** Writes what was accepted and ends, within ten seconds. A second call waits for the same end. */
    @Override
    public void close() {
        close(CLOSE_LIMIT);
    }

    /**
     * Writes what was accepted and ends. A call while another one is ending this waits for the same end. When it returns,
     * nothing is queued or in flight: events that could not be written are counted by {@link #lost}.
     *
     * @return false when that took longer than the limit, or something could not be written
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
                return complete; // the process is ending: the hook runs, and finds nothing left to do
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
     * The process ends without closing this, or while another thread closes it. The program's own shutdown hooks run at the
     * same time and may log events until the JVM halts, so that nothing is closed.
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
