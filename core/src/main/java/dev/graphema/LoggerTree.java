package dev.graphema;

import dev.graphema.event.Level;
import dev.graphema.settings.Settings;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;

/**
 * The loggers that share a receiver, by name. Loggers live as long as the tree and follow it when a runtime is started or
 * ended.
 */
final class LoggerTree {
    /** That of {@link Logger#of} and {@link Logger#named}. */
    static final LoggerTree SHARED = new LoggerTree();

    private final Map<String, Logger> loggers = new ConcurrentHashMap<>();
    private Function<String, Level> thresholds = name -> BeforeStart.THRESHOLD;
    private volatile List<String> contextOut = List.of();
    private volatile Receiver receiver = new BeforeStart(System.err);

    Logger logger(String name) {
        Logger known = loggers.get(name);
        return known != null ? known : added(name);
    }

    /** The fields of the context that leave the process. */
    List<String> contextOut() {
        return contextOut;
    }

    Receiver receiver() {
        return receiver;
    }

    /** From now on the loggers' events go there. */
    synchronized void connect(Receiver to, Settings settings) {
        receiver = to;
        thresholds = settings.thresholds()::of;
        contextOut = settings.contextOut();
        loggers.values().forEach(logger -> logger.threshold(thresholds.apply(logger.name())));
    }

    /** When the loggers' events still go to the one receiver, from now on they go to the other. */
    synchronized void replace(Receiver one, Receiver other) {
        if (receiver == one) {
            receiver = other;
        }
    }

    // Under the same lock as connect, so that no logger is added with thresholds that have just been replaced.
    private synchronized Logger added(String name) {
        return loggers.computeIfAbsent(name, missing -> new Logger(missing, this, thresholds.apply(missing)));
    }
}
