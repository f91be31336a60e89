package dev.graphema;

import dev.graphema.event.Level;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SettingsFile;
import java.io.IOException;
import java.nio.file.Path;
import java.time.Duration;
import java.util.Map;
import java.util.function.Consumer;

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
 * without closing it, a shutdown hook does. What is said after the end is counted, and shown on standard error when it is a
 * warning or worse.
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

    private Graphema(LoggerTree tree, Settings settings) {
        this.tree = tree;
        this.pipeline = Assembly.start(settings);
        this.receiver = pipeline::accept;
        this.management = Management.show(pipeline, settings);
        this.hook = new Thread(this::close, "graphema-shutdown");
        Runtime.getRuntime().addShutdownHook(hook);
        tree.connect(receiver, settings);
    }

    /**
     * Starts with the settings of a YAML file, see {@link SettingsFile}.
     *
     * @throws IOException when the file cannot be read
     * @throws dev.graphema.settings.SettingsException when something in it is wrong; it lists every problem
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened
     */
    public static Graphema start(Path file) throws IOException {
        return start(SettingsFile.read(file));
    }

    /**
     * Starts with the given settings.
     *
     * @throws dev.graphema.event.GraphemaException when a sink cannot be opened
     */
    public static Graphema start(Settings settings) {
        return new Graphema(LoggerTree.SHARED, settings);
    }

    /** Starts with settings made by code. As {@link #start(Settings)}. */
    public static Graphema build(Consumer<Settings.Builder> settings) {
        return start(built(settings));
    }

    /** Starts a runtime that leaves all other loggers alone: only those of {@link #logger} say something to it. */
    public static Graphema isolated(Consumer<Settings.Builder> settings) {
        return new Graphema(new LoggerTree(), built(settings));
    }

    /** The logger of that name whose events this runtime takes. */
    public Logger logger(String name) {
        return tree.logger(name);
    }

    /** The logger named after the class whose events this runtime takes. */
    public Logger logger(Class<?> type) {
        return logger(type.getName());
    }

    /** Waits until what was said so far is written; false when that takes longer than the limit. */
    public boolean flush(Duration limit) {
        return pipeline.flush(limit);
    }

    /** How many events were accepted so far. */
    public long accepted() {
        return pipeline.accepted();
    }

    /** How many events came after the end. Of them, warnings and worse went to standard error, as before the start. */
    public long late() {
        return pipeline.late();
    }

    /** How many events each sink has written, by its name. */
    public Map<String, Long> written() {
        return pipeline.written();
    }

    /** How many events of which level each sink did not get because its queue was full or it could not write, by its name. */
    public Map<String, Map<Level, Long>> lost() {
        return pipeline.lost();
    }

    /** Writes what was accepted and ends, within ten seconds. A second call does nothing. */
    @Override
    public void close() {
        close(CLOSE_LIMIT);
    }

    /**
     * Writes what was accepted and ends.
     *
     * @return false when that took longer than the limit, or something could not be written
     */
    public boolean close(Duration limit) {
        tree.tellOpenOperations();
        tree.replace(receiver, new AfterEnd(pipeline, new BeforeStart(System.err)));
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

    private static Settings built(Consumer<Settings.Builder> settings) {
        Settings.Builder builder = Settings.builder();
        settings.accept(builder);
        return builder.build();
    }
}
