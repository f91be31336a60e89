package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.runtime.LoggerState;
import dev.graphema.text.Times;
import java.time.Duration;
import java.util.concurrent.CompletionException;
import java.util.concurrent.CompletionStage;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A piece of work with a start, an end, a duration and an outcome; a span in W3C Trace Context. It belongs to the thread that
 * started it.
 *
 * <pre>{@code
 * log.measure("reserve deck space", op -> {
 *     op.put("lane", lane);
 *     return plan.reserve(lane);
 * });
 * }</pre>
 *
 * <p>{@link Logger#measure(String, Task)} records the exception that ends the work. An operation that is opened with {@link
 * Logger#operation} needs a call of {@link #fail}, because a resource is closed without the exception.
 *
 * <p>Closing it emits one event with the name of the operation as message, the added fields, {@value #ELAPSED} and {@value
 * #OUTCOME} ({@value #SUCCESS} or {@value #FAILURE}). The outcome is a failure unless {@link #succeed} was called. A failure is
 * recorded once: the first operation that receives a throwable records it at level error; enclosing operations that receive the
 * same throwable record only their outcome, at level warn.
 */
public final class Operation implements FieldWriter, Scope {
    /** The name of the field with the duration of an operation. */
    public static final String ELAPSED = "elapsed";

    /** The name of the field with the outcome of an operation. */
    public static final String OUTCOME = "outcome";

    public static final String SUCCESS = "success";
    public static final String FAILURE = "failure";

    /** Work with a result. */
    @FunctionalInterface
    public interface Work<T, E extends Exception> {
        T run() throws E;
    }

    /** Work without a result. */
    @FunctionalInterface
    public interface Action<E extends Exception> {
        void run() throws E;
    }

    /** Work with a result that adds fields to its operation, or decides about its outcome. */
    @FunctionalInterface
    public interface Task<T, E extends Exception> {
        T run(Operation operation) throws E;
    }

    /** Work without a result that adds fields to its operation, or decides about its outcome. */
    @FunctionalInterface
    public interface Step<E extends Exception> {
        void run(Operation operation) throws E;
    }

    /** The absent operation: accepts all calls and emits nothing. */
    public static final Operation NONE = new Operation();

    /** The message of the event that {@link Logger#enter} emits. */
    static final String ENTER = "enter";

    private final Logger logger;
    private final String name;
    private final Correlation correlation;
    private final Scope scope;
    private final Draft draft;
    private final FieldWriter fields;
    private final long startNanos = System.nanoTime();

    private final Level levelOfSuccess;
    private boolean succeeded;
    private boolean isDecided;
    private boolean closed;
    private Throwable failure;
    private CapturedContext context;

    private Operation() {
        logger = null;
        name = "none";
        correlation = Correlation.NONE;
        scope = null;
        draft = new Draft();
        fields = draft.writer();
        levelOfSuccess = Level.TRACE;
        closed = true;
        draft.finish(); // from now on, the writer ignores everything
    }

    Operation(Logger logger, String name, Level levelOfSuccess, UnaryOperator<String> headers) {
        this.logger = logger;
        this.name = name;
        this.levelOfSuccess = levelOfSuccess;
        correlation = correlation(headers);
        scope = headers == null ? OpenScope.open(this) : OpenScope.openEdge(this);
        draft = logger.draft(levelOfSuccess, name);
        fields = draft.writer();
        logger.state().tree().began(this);
    }

    static Operation entered(Logger logger, String method) {
        Operation operation = new Operation(logger, method, Level.TRACE, null);
        logger.trace(ENTER, f -> f.put("method", method));
        return operation;
    }

    /** Returns the innermost operation of this thread, so that called code can add fields; {@link #NONE} if there is none. */
    public static Operation current() {
        return OpenScope.operation();
    }

    private Correlation correlation(UnaryOperator<String> headers) {
        if (headers != null) {
            return Correlation.resumed(logger.state().tree(), headers, logger.draft(levelOfSuccess, name));
        }
        // An operation that emits no event must not become a parent: its parts would refer to a span without an event.
        return logger.enabled(levelOfSuccess)
                ? OpenScope.correlation().child(logger.state().tree(), logger.draft(levelOfSuccess, name))
                : OpenScope.correlation();
    }

    /** Sets the outcome to success. */
    public void succeed() {
        succeeded = true;
        isDecided = true;
    }

    /**
     * Sets the outcome to failure.
     *
     * @param cause the reason, or null if there is no throwable
     */
    public void fail(Throwable cause) {
        succeeded = false;
        isDecided = true;
        failure = cause;
    }

    /** Sets the outcome to success unless an outcome was set. */
    private void succeedUnlessDecided() {
        if (!isDecided) {
            succeed();
        }
    }

    /** Runs the work and closes the operation when it ends; if the result is a stage, when that completes. */
    <T, E extends Exception> T run(Task<T, E> work) throws E {
        T result;
        try {
            result = work.run(this);
        } catch (Throwable e) {
            fail(e);
            close();
            throw e;
        }
        if (result instanceof CompletionStage<?> stage && !closed) {
            detach();
            stage.whenComplete((value, problem) -> completed(problem));
        } else {
            succeedUnlessDecided();
            close();
        }
        return result;
    }

    private void completed(Throwable problem) {
        if (problem == null) {
            succeedUnlessDecided();
        } else {
            boolean isWrapper = problem instanceof CompletionException && problem.getCause() != null;
            fail(isWrapper ? problem.getCause() : problem);
        }
        close();
    }

    /** Returns the correlation of the operation, which is the current one until the operation is closed. */
    public Correlation correlation() {
        return correlation;
    }

    /**
     * Detaches the operation from this thread without closing it, for work that continues on another thread. Any thread may then
     * call {@link #close}, once; the event has the context at the time of this call.
     *
     * @return this operation
     */
    public Operation detach() {
        if (!closed && context == null) {
            context = Context.capture();
            scope.close();
        }
        return this;
    }

    @Override
    public void close() {
        if (closed) {
            return;
        }
        closed = true;
        logger.state().tree().ended(this);
        if (context != null) {
            try (Scope elsewhere = context.open()) {
                emit();
            }
        } else {
            scope.close();
            emit();
        }
    }

    private void emit() {
        try {
            send();
        } catch (Throwable e) {
            logger.state().refuse(e);
        }
    }

    private void send() {
        boolean recordsFailure =
                failure != null && !logger.state().tree().recordedFailures().has(failure);
        Level level = succeeded ? levelOfSuccess : failure == null || recordsFailure ? Level.ERROR : Level.WARN;
        long admittedBy = logger.state().admit(level);
        if (admittedBy != LoggerState.REFUSED) {
            fields.put(ELAPSED, (Object) Duration.ofNanos(System.nanoTime() - startNanos));
            fields.put(OUTCOME, succeeded ? SUCCESS : FAILURE);
            correlation.mark(draft.level(level).time(Times.now()));
            // The scope of an operation that a caller requested is closed by now, and so are its fields.
            draft.missingFields(correlation.outsideFields());
            logger.send(draft, failure, admittedBy);
        }
    }

    /** The names of operation and logger. */
    @Override
    public String toString() {
        return logger == null ? name : name + " of " + logger.name();
    }

    @Override
    public Operation put(String name, String value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, long value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, double value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, boolean value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, char value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, float value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public Operation put(String name, Object value) {
        fields.put(name, value);
        return this;
    }

    @Override
    public <T> Operation put(Key<T> key, T value) {
        fields.put(key, value);
        return this;
    }

    @Override
    public Operation group(String name, Consumer<? super FieldWriter> content) {
        fields.group(name, content);
        return this;
    }
}
