package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.propagation.ThreadFrames;
import dev.graphema.runtime.LoggerState;
import dev.graphema.runtime.LoggerTree;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A named source of events. Loggers are cheap to obtain, can be stored in static fields, and are thread-safe.
 *
 * <pre>{@code
 * private static final Logger log = Logger.of(BookingDesk.class);
 *
 * log.info("seat held", f -> f.put("sailing", sailing).put("passengers", 3));
 * log.error("deck space refused", problem, f -> f.put("lane", lane));
 * }</pre>
 *
 * <p>The message is a constant; everything that varies is a field. The consumer adds the fields. It is called immediately, on the
 * calling thread, and only if the logger is enabled for the level; a disabled level costs one comparison. No method throws an
 * exception because of the consumer or a value; the only exception is {@link OutOfMemoryError}.
 */
public final class Logger {
    private final LoggerState state;
    private final Fields own;

    private Logger(LoggerState state) {
        this(state, Fields.NONE);
    }

    private Logger(LoggerState state, Fields own) {
        this.state = state;
        this.own = own;
    }

    /** Returns the logger with the name of the class. */
    public static Logger of(Class<?> type) {
        return named(type.getName());
    }

    /** Returns the logger with this dotted name. The same name returns the same logger. */
    public static Logger named(String name) {
        return of(LoggerTree.SHARED, Objects.requireNonNull(name, "name"));
    }

    /** Returns the logger of a tree. */
    static Logger of(LoggerTree tree, String name) {
        return (Logger) tree.state(name).companion(Logger::new);
    }

    /**
     * Returns a logger with the same name whose events also have these fields. Fields of the event, the operation and the context
     * take precedence over fields of the logger with the same name.
     */
    public Logger with(Consumer<? super FieldWriter> fields) {
        return new Logger(state, Fields.union(Fields.of(fields, state.tree().sensitive()), own));
    }

    public String name() {
        return state.name();
    }

    /** Returns whether an event of this level is currently accepted. */
    public boolean enabled(Level level) {
        return state.takes(known(level));
    }

    /** Logs a step within a method, for following a single request through the code. */
    public void trace(String message) {
        log(Level.TRACE, message, null, null);
    }

    /** As {@link #trace(String)}, with fields. */
    public void trace(String message, Consumer<? super FieldWriter> fields) {
        log(Level.TRACE, message, null, fields);
    }

    /** As {@link #trace(String)}, with a failure. */
    public void trace(String message, Throwable failure) {
        log(Level.TRACE, message, failure, null);
    }

    /** As {@link #trace(String)}, with a failure and fields. */
    public void trace(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.TRACE, message, failure, fields);
    }

    /** Logs a detail that helps a developer to find a fault. */
    public void debug(String message) {
        log(Level.DEBUG, message, null, null);
    }

    /** As {@link #debug(String)}, with fields. */
    public void debug(String message, Consumer<? super FieldWriter> fields) {
        log(Level.DEBUG, message, null, fields);
    }

    /** As {@link #debug(String)}, with a failure. */
    public void debug(String message, Throwable failure) {
        log(Level.DEBUG, message, failure, null);
    }

    /** As {@link #debug(String)}, with a failure and fields. */
    public void debug(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.DEBUG, message, failure, fields);
    }

    /** Logs a normal event of interest to operators. */
    public void info(String message) {
        log(Level.INFO, message, null, null);
    }

    /** As {@link #info(String)}, with fields. */
    public void info(String message, Consumer<? super FieldWriter> fields) {
        log(Level.INFO, message, null, fields);
    }

    /** As {@link #info(String)}, with a failure. */
    public void info(String message, Throwable failure) {
        log(Level.INFO, message, failure, null);
    }

    /** As {@link #info(String)}, with a failure and fields. */
    public void info(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.INFO, message, failure, fields);
    }

    /** Logs a problem that did not stop the work but should be examined. */
    public void warn(String message) {
        log(Level.WARN, message, null, null);
    }

    /** As {@link #warn(String)}, with fields. */
    public void warn(String message, Consumer<? super FieldWriter> fields) {
        log(Level.WARN, message, null, fields);
    }

    /** As {@link #warn(String)}, with a failure. */
    public void warn(String message, Throwable failure) {
        log(Level.WARN, message, failure, null);
    }

    /** As {@link #warn(String)}, with a failure and fields. */
    public void warn(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.WARN, message, failure, fields);
    }

    /** Logs the failure of a piece of work. */
    public void error(String message) {
        log(Level.ERROR, message, null, null);
    }

    /** As {@link #error(String)}, with fields. */
    public void error(String message, Consumer<? super FieldWriter> fields) {
        log(Level.ERROR, message, null, fields);
    }

    /** As {@link #error(String)}, with a failure. */
    public void error(String message, Throwable failure) {
        log(Level.ERROR, message, failure, null);
    }

    /** As {@link #error(String)}, with a failure and fields. */
    public void error(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.ERROR, message, failure, fields);
    }

    /** Logs a failure after which the program, or a part of it, cannot continue. */
    public void fatal(String message) {
        log(Level.FATAL, message, null, null);
    }

    /** As {@link #fatal(String)}, with fields. */
    public void fatal(String message, Consumer<? super FieldWriter> fields) {
        log(Level.FATAL, message, null, fields);
    }

    /** As {@link #fatal(String)}, with a failure. */
    public void fatal(String message, Throwable failure) {
        log(Level.FATAL, message, failure, null);
    }

    /** As {@link #fatal(String)}, with a failure and fields. */
    public void fatal(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.FATAL, message, failure, fields);
    }

    /**
     * Logs an event of any level.
     *
     * @param level the level; null counts as {@link Level#INFO}
     * @param failure the failure to record, or null
     * @param fields adds fields to the event, or null for none
     */
    public void log(Level level, String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        try {
            Level known = known(level);
            long admittedBy = state.admit(known);
            if (admittedBy != LoggerState.REFUSED) {
                state.emit(known, message, failure, fields, own, admittedBy);
                if (ThreadFrames.isContextLost()) {
                    OpenScope.contextLost(state.name());
                }
            }
        } catch (Throwable e) {
            state.refuse(e);
        }
    }

    /** A null level must not cause an exception or lose the event. */
    private static Level known(Level level) {
        return level == null ? Level.INFO : level;
    }

    /**
     * Starts an operation on this thread. Closing it emits an event with its duration and outcome; events that are emitted in
     * between belong to it.
     */
    public Operation operation(String name) {
        return operation(Level.INFO, name);
    }

    /** As {@link #operation(String)}, with the level of the event of a successful operation. */
    public Operation operation(Level levelOfSuccess, String name) {
        return new Operation(this, name, levelOfSuccess, null);
    }

    /**
     * Starts an operation that was requested by another process. It continues the trace of the caller, as {@link
     * Correlation#resume} does.
     *
     * @param headers returns the value of the request header with the given name, or null if the request has none
     */
    public Operation operation(String name, UnaryOperator<String> headers) {
        return new Operation(this, name, Level.INFO, headers);
    }

    /**
     * Traces a method: emits the event {@value Operation#ENTER} now, and an event with the outcome when it is closed, both at level
     * trace. If trace is disabled, this costs one comparison.
     */
    public Operation enter(String method) {
        return enabled(Level.TRACE) ? Operation.entered(this, method) : Operation.NONE;
    }

    /**
     * Runs the work as an operation, which succeeds if the work returns and fails if it throws. If the result is a {@link
     * java.util.concurrent.CompletionStage}, the operation ends when the stage completes, with its outcome.
     */
    public <T, E extends Exception> T measure(String name, Operation.Work<T, E> work) throws E {
        return operation(name).run(operation -> work.run());
    }

    /** As {@link #measure(String, Operation.Work)}, for work without a result. */
    public <E extends Exception> void measure(String name, Operation.Action<E> work) throws E {
        operation(name).<Void, E>run(operation -> {
            work.run();
            return null;
        });
    }

    /**
     * As {@link #measure(String, Operation.Work)}, for work that adds fields to its operation, or sets the outcome: {@code
     * log.measure("reserve deck space", op -> plan.reserve(lane))}.
     */
    public <T, E extends Exception> T measure(String name, Operation.Task<T, E> work) throws E {
        return operation(name).run(work);
    }

    /** As {@link #measure(String, Operation.Task)}, for work without a result. */
    public <E extends Exception> void perform(String name, Operation.Step<E> work) throws E {
        operation(name).<Void, E>run(operation -> {
            work.run(operation);
            return null;
        });
    }

    @Override
    public String toString() {
        return state.name();
    }

    LoggerState state() {
        return state;
    }

    Draft draft(Level level, String message) {
        return state.draft(level, message);
    }

    /** Completes the draft with the context, the fields of the logger and the failure, and passes it on. */
    void send(Draft draft, Throwable failure, long admittedBy) {
        state.send(draft, own, failure, admittedBy);
    }
}
