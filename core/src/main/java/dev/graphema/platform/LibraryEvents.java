package dev.graphema.platform;

import dev.graphema.event.Draft;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.pipeline.Pipeline;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.runtime.LoggerState;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.text.Times;
import java.time.Instant;
import java.util.Arrays;

/**
 * Receives the events of libraries that log through a facade of their own. An adapter implements the facade with two calls:
 *
 * <pre>{@code
 * boolean isDebugEnabled() {
 *     return LibraryEvents.enabled(name, Level.DEBUG);
 * }
 *
 * void debug(String template, Object... arguments) {
 *     LibraryEvents.accept(name, Level.DEBUG, null, template, arguments, null);
 * }
 * }</pre>
 *
 * <p>The template, which is constant, becomes the message, and the arguments become the field {@value #ARGUMENTS}, so that events
 * can be grouped by message and found by argument. Context, trace, thresholds, sampling and redaction apply as to other events.
 * Thread-safe; never throws an exception except the JVM's own {@link OutOfMemoryError}.
 */
public final class LibraryEvents {
    /** The name of the field with the arguments, as a list. */
    public static final String ARGUMENTS = "arguments";

    private LibraryEvents() {}

    /**
     * Returns whether an event is currently accepted.
     *
     * @param logger the name of the logger; null for the root
     */
    public static boolean enabled(String logger, Level level) {
        return state(logger).takes(level);
    }

    /**
     * Emits an event. Events on the threads of sinks are ignored, so that a library that a sink uses causes no endless loop.
     *
     * @param logger the name of the logger; null for the root
     * @param level its level
     * @param time when it was emitted; null for now
     * @param template the text, with or without placeholders, which remain unchanged
     * @param arguments the values for the placeholders; null or empty for none
     * @param throwable the failure; null for none
     */
    public static void accept(
            String logger, Level level, Instant time, String template, Object[] arguments, Throwable throwable) {
        if (Pipeline.isSinkThread(Thread.currentThread())) {
            return;
        }
        LoggerState state = state(logger);
        try {
            long admittedBy = state.admit(level);
            if (admittedBy != LoggerState.REFUSED) {
                Draft draft = state.draft(level, template).time(time == null ? Times.now() : Times.epochNanos(time));
                if (arguments != null && arguments.length > 0) {
                    draft.fields(f -> f.put(ARGUMENTS, Arrays.asList(arguments)));
                }
                ThreadFrames.mark(draft);
                state.send(draft, Fields.NONE, throwable, admittedBy);
            }
        } catch (Throwable e) {
            state.refuse(e);
        }
    }

    private static LoggerState state(String logger) {
        return LoggerTree.SHARED.state(logger == null ? "" : logger);
    }
}
