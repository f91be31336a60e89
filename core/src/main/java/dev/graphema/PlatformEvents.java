package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import dev.graphema.pipeline.Pipeline;
import java.util.Arrays;
import java.util.logging.Formatter;
import java.util.logging.Handler;
import java.util.logging.LogRecord;

/**
 * What the Java platform and libraries say through the JDK's own {@code java.util.logging} and {@code System.Logger} (which
 * speaks through the former by default), received as events of the shared loggers. Only on request:
 *
 * <pre>{@code
 * try (PlatformEvents platform = PlatformEvents.receive(Level.INFO)) { ... }
 * }</pre>
 *
 * <p>Levels are mapped by their numbers: finest, finer and below to trace, fine and config to debug, info, warning to warn,
 * severe to error. The thresholds of Graphema's settings hold, too. While it is open, the platform's other handlers are
 * switched off. What is said while an event is being handled, or by the threads of sinks, is left out: there can be no
 * loop.
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
     * Begins to receive.
     *
     * @param threshold the least severe level that the platform's loggers are asked to say
     */
    public static PlatformEvents receive(Level threshold) {
        return new PlatformEvents(threshold);
    }

    /**
     * Tells of exceptions that end a thread, as fatal events of the logger {@code dev.graphema.uncaught}. A handler that was
     * set before is still called; without one, the stack is not printed any more.
     */
    public static void receiveUncaught() {
        Thread.UncaughtExceptionHandler before = Thread.getDefaultUncaughtExceptionHandler();
        Thread.setDefaultUncaughtExceptionHandler((thread, problem) -> {
            Logger.named("dev.graphema.uncaught").fatal("uncaught exception", problem);
            if (before != null) {
                before.uncaughtException(thread, problem);
            }
        });
    }

    /** Ends receiving; the platform's handlers and level are as they were before. */
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
        public void publish(LogRecord said) {
            if (busy.get() || Pipeline.isSinkThread(Thread.currentThread())) {
                return;
            }
            busy.set(true);
            try {
                Logger logger = Logger.named(said.getLoggerName() == null ? "java" : said.getLoggerName());
                Level level = level(said.getLevel());
                long admittedBy = logger.source().admit(level);
                if (admittedBy != Source.REFUSED) {
                    Draft draft = logger.draft(level, formatter.formatMessage(said))
                            .time(Times.epochNanos(said.getInstant()));
                    ThreadFrames.correlation().mark(draft);
                    logger.send(draft, said.getThrown(), admittedBy);
                }
            } finally {
                busy.set(false);
            }
        }

        @Override
        public void flush() {
            // events are on their way already
        }

        @Override
        public void close() {
            // nothing is held
        }
    }

    /** For its way of putting parameters into a message. */
    private static final class MessageFormatter extends Formatter {
        @Override
        public String format(LogRecord said) {
            return formatMessage(said);
        }
    }
}
