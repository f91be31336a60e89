package dev.graphema.platform;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.runtime.LoggerState;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.text.Times;
import java.util.Arrays;
import java.util.logging.Formatter;
import java.util.logging.Handler;
import java.util.logging.LogRecord;

/**
 * Receives events that the Java platform and libraries emit through {@code java.util.logging} and {@code System.Logger} (which uses
 * the former by default) as events of the shared loggers. Only on request:
 *
 * <pre>{@code
 * try (PlatformEvents platform = PlatformEvents.receive(Level.INFO)) { ... }
 * }</pre>
 *
 * <p>Levels are mapped by their numbers: finest, finer and below to trace, fine and config to debug, info to info, warning to warn,
 * severe to error. The thresholds of Graphema's settings also apply. While this is open, the other handlers of the platform are
 * removed. Events that are emitted while another one is handled, or on the threads of sinks, are ignored, so that there is no
 * endless loop.
 */
public final class PlatformEvents implements AutoCloseable {
    private final java.util.logging.Logger root;
    private final Handler[] others;
    private final java.util.logging.Level levelBefore;
    private final Receiving handler = new Receiving();

    private PlatformEvents(Level threshold) {
        root = java.util.logging.Logger.getLogger("");
        others = root.getHandlers();
        levelBefore = root.getLevel();
        Arrays.stream(others).forEach(root::removeHandler);
        root.setLevel(platformLevel(threshold));
        root.addHandler(handler);
    }

    /**
     * Starts to receive events.
     *
     * @param threshold the threshold to set for the loggers of the platform
     */
    public static PlatformEvents receive(Level threshold) {
        return new PlatformEvents(threshold);
    }

    /**
     * Records exceptions that end a thread as fatal events of the logger {@code dev.graphema.uncaught}. The previous default handler
     * is still called; without one, the stack trace is no longer printed.
     */
    public static void receiveUncaught() {
        Thread.UncaughtExceptionHandler before = Thread.getDefaultUncaughtExceptionHandler();
        Thread.setDefaultUncaughtExceptionHandler((thread, problem) -> {
            uncaught(LoggerTree.SHARED.state("dev.graphema.uncaught"), problem);
            if (before != null) {
                before.uncaughtException(thread, problem);
            }
        });
    }

    private static void uncaught(LoggerState logger, Throwable problem) {
        try {
            long admittedBy = logger.admit(Level.FATAL);
            if (admittedBy != LoggerState.REFUSED) {
                send(logger, logger.draft(Level.FATAL, "uncaught exception").time(Times.now()), problem, admittedBy);
            }
        } catch (Throwable e) {
            logger.refuse(e);
        }
    }

    private static void send(LoggerState logger, Draft draft, Throwable failure, long admittedBy) {
        ThreadFrames.mark(draft);
        logger.send(draft, Fields.NONE, failure, admittedBy);
    }

    /** Stops receiving events and restores the handlers and the level of the platform. */
    @Override
    public void close() {
        root.removeHandler(handler);
        root.setLevel(levelBefore);
        Arrays.stream(others).forEach(root::addHandler);
    }

    private static java.util.logging.Level platformLevel(Level level) {
        return switch (level) {
            case TRACE -> java.util.logging.Level.ALL;
            case DEBUG -> java.util.logging.Level.FINE;
            case INFO -> java.util.logging.Level.INFO;
            case WARN -> java.util.logging.Level.WARNING;
            case ERROR, FATAL -> java.util.logging.Level.SEVERE;
            case OFF -> java.util.logging.Level.OFF;
        };
    }

    private static Level level(java.util.logging.Level level) {
        int value = level.intValue();
        if (value >= java.util.logging.Level.SEVERE.intValue()) {
            return Level.ERROR;
        }
        if (value >= java.util.logging.Level.WARNING.intValue()) {
            return Level.WARN;
        }
        if (value >= java.util.logging.Level.INFO.intValue()) {
            return Level.INFO;
        }
        return value >= java.util.logging.Level.FINE.intValue() ? Level.DEBUG : Level.TRACE;
    }

    private static final class Receiving extends Handler {
        private final ThreadLocal<Boolean> busy = ThreadLocal.withInitial(() -> false);
        private final Formatter formatter = new MessageFormatter();

        @Override
        public void publish(LogRecord emitted) {
            if (busy.get() || Pipeline.isSinkThread(Thread.currentThread())) {
                return;
            }
            LoggerState logger =
                    LoggerTree.SHARED.state(emitted.getLoggerName() == null ? "java" : emitted.getLoggerName());
            busy.set(true);
            try {
                Level level = level(emitted.getLevel());
                long admittedBy = logger.admit(level);
                if (admittedBy != LoggerState.REFUSED) {
                    Draft draft = logger.draft(level, formatter.formatMessage(emitted))
                            .time(Times.epochNanos(emitted.getInstant()));
                    send(logger, draft, emitted.getThrown(), admittedBy);
                }
            } catch (Throwable e) {
                logger.refuse(e); // a parameter of the record may throw anything
            } finally {
                busy.set(false);
            }
        }

        @Override
        public void flush() {
            // events are passed on immediately
        }

        @Override
        public void close() {
            // there is nothing to close
        }
    }

    /** Used for its formatting of parameters. */
    private static final class MessageFormatter extends Formatter {
        @Override
        public String format(LogRecord emitted) {
            return formatMessage(emitted);
        }
    }
}
