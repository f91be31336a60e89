package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.runtime.LoggerState;
import dev.graphema.text.Times;
import java.time.Duration;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A piece of work with a start, an end, a duration and an outcome; a span in W3C Trace Context. It belongs to the thread that
 * started it.
 *
 * <pre>{@code
 * try (Operation op = log.operation("reserve deck space")) {
 *     op.put("lane", lane);
 *     plan.reserve(lane);
 *     op.succeed();
 * }
 * }</pre>
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
    }

    /** Sets the outcome to failure. @param cause the reason, or null if there is no throwable */
    public void fail(Throwable cause) {
        succeeded = false;
        failure = cause;
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
    public FieldWriter put(String name, String value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, long value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, double value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, boolean value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, char value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, float value) {
        return fields.put(name, value);
    }

    @Override
    public FieldWriter put(String name, Object value) {
        return fields.put(name, value);
    }

    @Override
    public <T> FieldWriter put(Key<T> key, T value) {
        return fields.put(key, value);
    }

    @Override
    public FieldWriter group(String name, Consumer<? super FieldWriter> content) {
        return fields.group(name, content);
    }
}
