package dev.graphema;

import dev.graphema.event.Draft;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.event.Times;
import java.time.Duration;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A piece of work with a start, an end, a duration and an outcome: a span, in the words of W3C Trace Context. It belongs to
 * the thread that began it.
 *
 * <pre>{@code
 * try (Operation op = log.operation("reserve deck space")) {
 *     op.put("lane", lane);
 *     plan.reserve(lane);
 *     op.succeed();
 * }
 * }</pre>
 *
 * <p>Closing it says one event with the operation's name as message, the fields that were put, and {@value #ELAPSED} and
 * {@value #OUTCOME} ({@value #SUCCESS} or {@value #FAILURE}). An operation that was not told to have succeeded has failed.
 * A failure is recorded once: the operation that first learns of a throwable tells of it at error; those around it, through
 * which the same throwable passes, only tell their outcome, at warn.
 */
public final class Operation implements FieldWriter, Scope {
    /** The field that holds an operation's duration. */
    public static final String ELAPSED = "elapsed";

    /** The field that holds an operation's outcome. */
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

    /** What stands in for an operation where there is none: it takes everything and says nothing. */
    public static final Operation NONE = new Operation();

    /** The message with which {@link Logger#enter} begins. */
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
        scope = headers == null ? ThreadFrames.open(this) : ThreadFrames.openEdge(this);
        draft = logger.draft(levelOfSuccess, name);
        fields = draft.writer();
        logger.source().tree().began(this);
    }

    static Operation entered(Logger logger, String method) {
        Operation operation = new Operation(logger, method, Level.TRACE, null);
        logger.trace(ENTER, f -> f.put("method", method));
        return operation;
    }

    /** The innermost operation that this thread is in, to put fields into it from code below; {@link #NONE} without one. */
    public static Operation current() {
        return ThreadFrames.operation();
    }

    private Correlation correlation(UnaryOperator<String> headers) {
        if (headers != null) {
            return Correlation.resumed(logger.source().tree(), headers, logger.draft(levelOfSuccess, name));
        }
        // An operation that is not told must not stand between its parts and what is around it: they would have a
        // parent
        // that nobody ever finds.
        return logger.enabled(levelOfSuccess)
                ? ThreadFrames.correlation().child(logger.source().tree(), logger.draft(levelOfSuccess, name))
                : ThreadFrames.correlation();
    }

    /** Says that the work is done. */
    public void succeed() {
        succeeded = true;
    }

    /** Says that the work failed, and why; null when there is no throwable to tell it. */
    public void fail(Throwable cause) {
        succeeded = false;
        failure = cause;
    }

    /** Where the operation belongs; it is the current correlation until the operation is closed. */
    public Correlation correlation() {
        return correlation;
    }

    /**
     * Takes the operation off this thread without ending it, for work that goes on elsewhere: {@link #close} may then be
     * called by any other thread, once, and tells of the operation with the context of this moment.
     *
     * @return this
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
        logger.source().tree().ended(this);
        if (context != null) {
            try (Scope elsewhere = context.open()) {
                tell();
            }
        } else {
            scope.close();
            tell();
        }
    }

    private void tell() {
        try {
            send();
        } catch (Throwable e) {
            logger.source().refuse(e);
        }
    }

    private void send() {
        boolean tellsFailure =
                failure != null && logger.source().tree().recordedFailures().find(failure) == null;
        Level level = succeeded ? levelOfSuccess : failure == null || tellsFailure ? Level.ERROR : Level.WARN;
        long admittedBy = logger.source().admit(level);
        if (admittedBy != Source.REFUSED) {
            fields.put(ELAPSED, (Object) Duration.ofNanos(System.nanoTime() - startNanos));
            fields.put(OUTCOME, succeeded ? SUCCESS : FAILURE);
            correlation.mark(draft.level(level).time(Times.now()));
            // The scope of an operation that a caller asked for is closed by now, and what came along with it is gone.
            draft.missingFields(correlation.outsideFields());
            logger.send(draft, failure, admittedBy);
        }
    }

    /** The operation's name and its logger's. */
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
