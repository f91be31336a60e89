package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A named source of events. Loggers are cheap to ask for, may be kept in static fields, and serve any thread.
 *
 * <pre>{@code
 * private static final Logger log = Logger.of(BookingDesk.class);
 *
 * log.info("seat held", f -> f.put("sailing", sailing).put("passengers", 3));
 * log.error("deck space refused", problem, f -> f.put("lane", lane));
 * }</pre>
 *
 * <p>The message is a constant; what varies is a field. Fields are put by the consumer, which is called at once, on this
 * thread, and not at all when the level is refused: a refused event costs one comparison. No method here throws, whatever
 * the consumer or the values do, except for {@link OutOfMemoryError}.
 */
public final class Logger {
    private final Source source;
    private final Fields own;

    Logger(Source source) {
        this(source, Fields.NONE);
    }

    private Logger(Source source, Fields own) {
        this.source = source;
        this.own = own;
    }

    /** The logger that is named after the class. */
    public static Logger of(Class<?> type) {
        return named(type.getName());
    }

    /** The logger of that dotted name; the same name gives the same logger. */
    public static Logger named(String name) {
        return LoggerTree.SHARED.logger(Objects.requireNonNull(name, "name"));
    }

    /**
     * A logger of the same name whose events carry these fields besides those of this logger. The fields of the event, the
     * operation and the context hide those of the logger where names are the same.
     */
    public Logger with(Consumer<? super FieldWriter> fields) {
        return new Logger(source, Fields.union(Fields.of(fields, source.tree().sensitive()), own));
    }

    public String name() {
        return source.name();
    }

    /** Whether an event of that level would be taken now. */
    public boolean enabled(Level level) {
        return source.takes(known(level));
    }

    /** The steps inside a method: for whoever follows one request through the code. */
    public void trace(String message) {
        log(Level.TRACE, message, null, null);
    }

    /** As {@link #trace(String)}, with fields. */
    public void trace(String message, Consumer<? super FieldWriter> fields) {
        log(Level.TRACE, message, null, fields);
    }

    /** As {@link #trace(String)}, with what went wrong. */
    public void trace(String message, Throwable failure) {
        log(Level.TRACE, message, failure, null);
    }

    /** As {@link #trace(String)}, with what went wrong and fields. */
    public void trace(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.TRACE, message, failure, fields);
    }

    /** What a developer wants to know while looking for a fault. */
    public void debug(String message) {
        log(Level.DEBUG, message, null, null);
    }

    /** As {@link #debug(String)}, with fields. */
    public void debug(String message, Consumer<? super FieldWriter> fields) {
        log(Level.DEBUG, message, null, fields);
    }

    /** As {@link #debug(String)}, with what went wrong. */
    public void debug(String message, Throwable failure) {
        log(Level.DEBUG, message, failure, null);
    }

    /** As {@link #debug(String)}, with what went wrong and fields. */
    public void debug(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.DEBUG, message, failure, fields);
    }

    /** Something that is part of the normal course of things, for operators. */
    public void info(String message) {
        log(Level.INFO, message, null, null);
    }

    /** As {@link #info(String)}, with fields. */
    public void info(String message, Consumer<? super FieldWriter> fields) {
        log(Level.INFO, message, null, fields);
    }

    /** As {@link #info(String)}, with what went wrong. */
    public void info(String message, Throwable failure) {
        log(Level.INFO, message, failure, null);
    }

    /** As {@link #info(String)}, with what went wrong and fields. */
    public void info(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.INFO, message, failure, fields);
    }

    /** Something that should be looked at, though the work went on. */
    public void warn(String message) {
        log(Level.WARN, message, null, null);
    }

    /** As {@link #warn(String)}, with fields. */
    public void warn(String message, Consumer<? super FieldWriter> fields) {
        log(Level.WARN, message, null, fields);
    }

    /** As {@link #warn(String)}, with what went wrong. */
    public void warn(String message, Throwable failure) {
        log(Level.WARN, message, failure, null);
    }

    /** As {@link #warn(String)}, with what went wrong and fields. */
    public void warn(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.WARN, message, failure, fields);
    }

    /** A piece of work failed. */
    public void error(String message) {
        log(Level.ERROR, message, null, null);
    }

    /** As {@link #error(String)}, with fields. */
    public void error(String message, Consumer<? super FieldWriter> fields) {
        log(Level.ERROR, message, null, fields);
    }

    /** As {@link #error(String)}, with what went wrong. */
    public void error(String message, Throwable failure) {
        log(Level.ERROR, message, failure, null);
    }

    /** As {@link #error(String)}, with what went wrong and fields. */
    public void error(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.ERROR, message, failure, fields);
    }

    /** The program, or a whole part of it, cannot go on. */
    public void fatal(String message) {
        log(Level.FATAL, message, null, null);
    }

    /** As {@link #fatal(String)}, with fields. */
    public void fatal(String message, Consumer<? super FieldWriter> fields) {
        log(Level.FATAL, message, null, fields);
    }

    /** As {@link #fatal(String)}, with what went wrong. */
    public void fatal(String message, Throwable failure) {
        log(Level.FATAL, message, failure, null);
    }

    /** As {@link #fatal(String)}, with what went wrong and fields. */
    public void fatal(String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        log(Level.FATAL, message, failure, fields);
    }

    /**
     * Says an event of any level.
     *
     * @param level null is taken for {@link Level#INFO}
     * @param failure what went wrong, or null
     * @param fields puts the event's own fields, or null for none
     */
    public void log(Level level, String message, Throwable failure, Consumer<? super FieldWriter> fields) {
        try {
            Level known = known(level);
            long admittedBy = source.admit(known);
            if (admittedBy != Source.REFUSED) {
                say(known, message, failure, fields, admittedBy);
            }
        } catch (Throwable e) {
            source.refuse(e);
        }
    }

    /** A level that a program has computed wrongly must cost neither an exception nor the event. */
    private static Level known(Level level) {
        return level == null ? Level.INFO : level;
    }

    /**
     * Begins a piece of work on this thread. Closing it says an event with its duration and outcome; whatever is said in
     * between belongs to it.
     */
    public Operation operation(String name) {
        return operation(Level.INFO, name);
    }

    /** As {@link #operation(String)}, with the level at which a success is told. */
    public Operation operation(Level levelOfSuccess, String name) {
        return new Operation(this, name, levelOfSuccess, null);
    }

    /**
     * Begins a piece of work that another process asked for: it goes on with the caller's trace, as {@link
     * Correlation#resume} does.
     *
     * @param headers the value of the request header of that name, or null when the request has none
     */
    public Operation operation(String name, UnaryOperator<String> headers) {
        return new Operation(this, name, Level.INFO, headers);
    }

    /**
     * Follows a method at trace level: says {@value Operation#ENTER} now and, when it is closed, how it was left. Costs
     * nothing but the comparison when trace is refused.
     */
    public Operation enter(String method) {
        return enabled(Level.TRACE) ? Operation.entered(this, method) : Operation.NONE;
    }

    /** Does the work as an operation, which takes its outcome from whether the work returns or throws. */
    public <T, E extends Exception> T measure(String name, Operation.Work<T, E> work) throws E {
        try (Operation operation = operation(name)) {
            try {
                T result = work.run();
                operation.succeed();
                return result;
            } catch (Throwable e) {
                operation.fail(e);
                throw e;
            }
        }
    }

    /** As {@link #measure(String, Operation.Work)}, for work without a result. */
    public <E extends Exception> void measure(String name, Operation.Action<E> work) throws E {
        measure(name, () -> {
            work.run();
            return null;
        });
    }

    @Override
    public String toString() {
        return source.name();
    }

    Source source() {
        return source;
    }

    private void say(
            Level level, String message, Throwable failure, Consumer<? super FieldWriter> fields, long admittedBy) {
        Draft draft = draft(level, message);
        if (fields != null) {
            draft.fields(fields);
        }
        ThreadFrames.correlation().mark(draft);
        send(draft.time(Times.now()), failure, admittedBy);
    }

    Draft draft(Level level, String message) {
        return new Draft(source.tree().sensitive())
                .level(level)
                .logger(source.name())
                .message(message == null ? "" : message)
                .thread(Thread.currentThread().getName());
    }

    /** Completes the draft with context, own fields and failure, and sends it off. */
    void send(Draft draft, Throwable failure, long admittedBy) {
        boolean isError = draft.level().passes(Level.ERROR);
        if (source.tellsCaller()) {
            draft.fields(f -> f.put("caller", Caller.current()));
        }
        ThreadFrames.addFields(draft);
        draft.missingFields(own);
        RecordedFailures recorded = source.tree().recordedFailures();
        RecordedFailures.Entry earlier = failure == null ? null : recorded.find(failure);
        if (earlier != null) {
            refer(draft, failure, earlier);
        } else if (failure != null) {
            draft.failure(Failure.of(failure));
        }
        source.tree().receiver().accept(draft, admittedBy);
        if (failure != null && earlier == null && isError) {
            // Errors are never sampled away, so that the failure can be found where it was recorded.
            recorded.add(failure, draft.soFar().failure().fingerprint());
        }
    }

    /** A failure is recorded once. What reports it again refers to it, and keeps what a wrapper around it adds. */
    private static void refer(Draft draft, Throwable failure, RecordedFailures.Entry earlier) {
        draft.fields(f -> {
            f.put(Failure.RECORDED, earlier.fingerprint());
            if (!earlier.is(failure)) {
                Failure wrapper = Failure.of(failure);
                f.put(Failure.WRAPPER, wrapper.type() + (wrapper.message() == null ? "" : ": " + wrapper.message()));
            }
        });
    }
}
