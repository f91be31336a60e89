package dev.graphema;

import dev.graphema.condition.Condition;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.explain.Explanation;
import dev.graphema.holdback.HoldBack;
import dev.graphema.propagation.Misuse;
import dev.graphema.runtime.Engine;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.runtime.Management;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsSource;
import dev.graphema.sink.SinkStatus;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
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
    private final Engine engine;
    private final Management management;

    private Graphema(LoggerTree tree, Settings settings, SettingsSource source) {
        engine = new Engine(
                tree,
                settings,
                source,
                operation -> OpenScope.warn(Misuse.NEVER_ENDED, operation.toString()),
                file -> settingsChanged(tree, file));
        management = Management.show(engine);
    }

    /** Leaves an event, so that a time map can show the change among its consequences. */
    private static void settingsChanged(LoggerTree tree, String file) {
        Logger.of(tree, Settings.class.getPackageName())
                .info("settings changed", fields -> fields.put("settings", file));
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
        return Logger.of(engine.tree(), name);
    }

    /** Returns the logger with the name of the class whose events this runtime receives. */
    public Logger logger(Class<?> type) {
        return logger(type.getName());
    }

    /** As {@link Correlation#begin}, with the settings of this runtime. */
    public Scope begin() {
        return Correlation.begin(engine.tree());
    }

    /** As {@link Correlation#resume}, with the settings of this runtime. */
    public Scope resume(UnaryOperator<String> headers) {
        return Correlation.resume(engine.tree(), headers);
    }

    /** Returns the current settings. */
    public Settings settings() {
        return engine.settings();
    }

    /** Returns since when the current settings are in effect. */
    public Instant since() {
        return engine.since();
    }

    /** Returns why the last change of the settings was rejected; null if it was not. */
    public String lastRefusal() {
        return engine.lastRefusal();
    }

    /**
     * Reads the settings file again, applies it, and logs the event "settings changed". If this throws an exception, the current settings remain in effect.
     *
     * @throws IllegalStateException if the settings were defined in code, or the runtime is closed
     * @throws IOException if the file cannot be read
     * @throws dev.graphema.settings.SettingsException if the file has errors
     * @throws dev.graphema.event.GraphemaException if a sink cannot be opened
     */
    public void reload() throws IOException {
        engine.reload();
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
        engine.reload(settings);
    }

    /**
     * Sets the threshold of a branch of loggers for a limited time. It overrides the settings for the whole branch, and remains in effect
     * if the settings change.
     *
     * @param branch the dotted name of a logger, which includes all names below; "" for all loggers
     * @throws IllegalArgumentException if the time is not positive or longer than a year
     */
    public void threshold(String branch, Level threshold, Duration time) {
        engine.tree().thresholds().set(branch, threshold, time);
    }

    /**
     * Resets what {@link #threshold(String, Level, Duration)} has set.
     *
     * @return whether a threshold was set for this branch
     */
    public boolean resetThreshold(String branch) {
        return engine.tree().thresholds().reset(branch);
    }

    /** Resets all thresholds and detail that were set at run time. */
    public void resetByHand() {
        engine.tree().thresholds().resetAll();
    }

    /** Describes the thresholds and detail that were set at run time and are still in effect, one per line. */
    public List<String> byHand() {
        return engine.tree().thresholds().byHand();
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
        engine.tree().thresholds().raise(target, from, time);
    }

    /** Returns the current threshold of the logger. */
    public Level threshold(String logger) {
        return engine.tree().thresholds().of(logger);
    }

    /**
     * Explains how an event of the logger would currently be processed.
     *
     * @param fields adds its fields, including those of the context
     */
    public Explanation explain(String logger, Level level, Consumer<? super FieldWriter> fields) {
        return engine.explain(logger, level, fields);
    }

    /**
     * Waits until all events emitted so far are written.
     *
     * @return false if this takes longer than the limit
     */
    public boolean flush(Duration limit) {
        return engine.pipeline().flush(limit);
    }

    /** Returns the number of accepted events. */
    public long accepted() {
        return engine.pipeline().accepted();
    }

    /**
     * Returns the number of events that could not be created or processed because a condition, a rule or Graphema failed. A value that
     * throws an exception affects only its field.
     */
    public long refused() {
        return engine.refused();
    }

    /**
     * Returns the number of texts that were withheld since the settings took effect. A text is withheld if a detector or treatment fails,
     * because it may contain a secret.
     */
    public long withheld() {
        return engine.pipeline().withheld();
    }

    /** Returns the number of events after the runtime was closed. Those at level warn and above were printed on standard error. */
    public long late() {
        return engine.pipeline().late();
    }

    /**
     * Returns how many events each sampling rule has dropped since the settings took effect, by its number, from 1, and its text.
     */
    public Map<String, Long> droppedBySampling() {
        return engine.droppedBySampling();
    }

    /** Returns the counts of held-back events since the settings took effect. */
    public HoldBack.Held held() {
        return engine.pipeline().held();
    }

    /** Returns the number of events that each sink has written, by name of the sink. */
    public Map<String, Long> written() {
        return engine.pipeline().written();
    }

    /** Returns the number of lost events by sink and level: the queue was full, or the sink could not write. */
    public Map<String, Map<Level, Long>> lost() {
        return engine.pipeline().lost();
    }

    /**
     * Returns the current state of each sink, by name: whether it works and since when, its queue, and the events that wait on the
     * disk.
     */
    public Map<String, SinkStatus> sinks() {
        return engine.pipeline().sinks();
    }

    /** Returns whether all sinks work. */
    public boolean isHealthy() {
        return sinks().values().stream().allMatch(SinkStatus::working);
    }

    /** Writes all accepted events and closes the runtime, within ten seconds. A second call waits for the first one. */
    @Override
    public void close() {
        close(Engine.CLOSE_LIMIT);
    }

    /**
     * Writes all accepted events and closes the runtime. A concurrent call waits for the first one. When this returns, no event is queued or
     * in flight; events that could not be written are counted by {@link #lost}.
     *
     * @return false if this took longer than the limit, or an event could not be written
     */
    public boolean close(Duration limit) {
        boolean complete = engine.close(limit);
        management.hide();
        return complete;
    }

    private static Settings built(Consumer<Settings.Builder> settings) {
        Settings.Builder builder = Settings.builder();
        settings.accept(builder);
        return builder.build();
    }
}
