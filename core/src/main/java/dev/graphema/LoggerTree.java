package dev.graphema;

import dev.graphema.event.Level;
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
    private volatile Receiver receiver = new BeforeStart(System.err);

    Logger logger(String name) {
        Logger known = loggers.get(name);
        return known != null ? known : added(name);
    }

    Receiver receiver() {
        return receiver;
    }

    /** From now on the loggers' events go there. */
    synchronized void connect(Receiver to, Function<String, Level> by) {
        receiver = to;
        thresholds = by;
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
