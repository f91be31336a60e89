package dev.graphema.event;

import dev.graphema.text.Times;
import java.time.Instant;
import java.util.function.Predicate;

/**
 * An event: a level, the logger that emitted it, a constant message, typed fields, trace and span, and a failure if
 * there was one. Immutable after a {@link Draft} has finished it, and thread-safe.
 *
 * <p>Nothing in an event is evaluated: all texts are data.
 */
public final class Event implements EventValues {
    long time;
    Level level;
    String service;
    String instance;
    String logger;
    String message;
    String thread;
    Fields fields = Fields.NONE;
    Failure failure;
    TraceId trace;
    SpanId span;
    SpanId parent;
    String run;
    long sequence;
    long weight = 1;
    boolean repeat;
    boolean held;
    boolean isTimeless;

    Event() {}

    void clear() {
        level = null;
        service = null;
        instance = null;
        logger = null;
        message = null;
        thread = null;
        if (fields != Fields.NONE) {
            fields.cutBack(0);
        }
        failure = null;
        trace = null;
        span = null;
        parent = null;
        run = null;
        sequence = 0;
        weight = 1;
        repeat = false;
        held = false;
        isTimeless = false;
    }

    /**
     * Returns whether the time is known. An event that was read from a log may have no time; then it has the time of
     * the previous event of its file, which determines its position.
     */
    public boolean hasTime() {
        return !isTimeless;
    }

    /** Returns the time, in nanoseconds since 1970-01-01T00:00:00Z. */
    public long epochNanos() {
        return time;
    }

    /** Returns the time. */
    public Instant time() {
        return Times.instant(time);
    }

    /** Returns the level; null only for an event that was read from a log without levels. */
    public Level level() {
        return level;
    }

    /** Returns the name of the service, or null. */
    public String service() {
        return service;
    }

    /** Returns the instance of the service, or null. */
    public String instance() {
        return instance;
    }

    /** Returns the dotted name of the logger; null only for an event that was read from a log without loggers. */
    public String logger() {
        return logger;
    }

    public String message() {
        return message;
    }

    /** Returns the name of the thread that emitted the event, or null. */
    public String thread() {
        return thread;
    }

    public Fields fields() {
        return fields;
    }

    /** Returns the failure, or null. */
    public Failure failure() {
        return failure;
    }

    /** Returns the trace id, or null. */
    public TraceId trace() {
        return trace;
    }

    /** Returns the id of the operation in which the event was emitted, or null. */
    public SpanId span() {
        return span;
    }

    /** Returns the id of the enclosing operation, or null. */
    public SpanId parent() {
        return parent;
    }

    /**
     * Returns the number of the event in its process, from 1 without gaps; 0 for an event that was read from a log
     * without numbers.
     */
    public long sequence() {
        return sequence;
    }

    /** Returns the run of the process: 16 random hexadecimal digits, new at each start; or null. */
    public String run() {
        return run;
    }

    /** Returns run and sequence, which identify copies of the event; null if one of them is unknown. */
    public String id() {
        return run == null || sequence == 0 ? null : run + "-" + sequence;
    }

    /** Returns whether a process that ended suddenly may have written the event before. */
    public boolean repeat() {
        return repeat;
    }

    /** Returns whether the event was held back in memory and written because of a later event. */
    public boolean held() {
        return held;
    }

    /** Returns how many events this one represents after sampling. */
    public long weight() {
        return weight;
    }

    /** Returns the value of an attribute, or null. */
    public Object value(Attribute attribute) {
        return switch (attribute) {
            case TIME -> isTimeless ? null : time();
            case LEVEL -> level == null ? null : level.text();
            case SERVICE -> service;
            case INSTANCE -> instance;
            case LOGGER -> logger;
            case MESSAGE -> message;
            case TRACE -> trace;
            case SPAN -> span;
            case PARENT -> parent;
            case THREAD -> thread;
            case SEQUENCE -> sequence;
            case WEIGHT -> weight;
            case EVENT_ID -> id();
            case EVENT_REPEAT -> repeat;
            case HELD -> held;
            case FAILURE_TYPE -> failure == null ? null : failure.type();
            case FAILURE_MESSAGE -> failure == null ? null : failure.message();
            case FAILURE_FINGERPRINT -> failure == null ? null : failure.fingerprint();
        };
    }

    @Override
    public boolean test(Attribute attribute, ValuePredicate test) {
        return switch (attribute) {
            case TIME -> !isTimeless && test.time(time);
            case LEVEL -> level != null && test.level(level);
            case SERVICE -> text(service, test);
            case INSTANCE -> text(instance, test);
            case LOGGER -> text(logger, test);
            case MESSAGE -> text(message, test);
            case TRACE -> trace != null && test.text(trace.toString());
            case SPAN -> span != null && test.text(span.toString());
            case PARENT -> parent != null && test.text(parent.toString());
            case THREAD -> text(thread, test);
            case SEQUENCE -> sequence != 0 && test.integer(sequence);
            case WEIGHT -> test.integer(weight);
            case EVENT_ID -> text(id(), test);
            case EVENT_REPEAT -> test.bool(repeat);
            case HELD -> test.bool(held);
            case FAILURE_TYPE -> failureType(failure, test);
            case FAILURE_MESSAGE -> failureMessage(failure, test);
            case FAILURE_FINGERPRINT -> failure != null && test.text(failure.fingerprint());
        };
    }

    @Override
    public boolean test(String field, ValuePredicate test) {
        return fields.test(field, test);
    }

    @Override
    public boolean anyText(Predicate<String> test) {
        return passes(message, test)
                || passes(logger, test)
                || passes(service, test)
                || passes(instance, test)
                || fields.anyText(test)
                || failure != null && failure.anyText(test);
    }

    /** Returns the attributes and fields in one line, for tests and debuggers. */
    @Override
    public String toString() {
        return (level == null ? "-" : level.text()) + " " + logger + " " + message + " " + fields
                + (failure == null ? "" : " " + failure.type());
    }

    private static boolean text(String value, ValuePredicate test) {
        return value != null && test.text(value);
    }

    private static boolean passes(String value, Predicate<String> test) {
        return value != null && test.test(value);
    }

    // A question about the failure is answered by the failure itself or any of its causes: who asks for a time-out
    // wants
    // it however often it was wrapped.
    private static boolean failureType(Failure failure, ValuePredicate test) {
        return failure != null && (test.text(failure.type()) || failureType(failure.cause(), test));
    }

    private static boolean failureMessage(Failure failure, ValuePredicate test) {
        return failure != null && (text(failure.message(), test) || failureMessage(failure.cause(), test));
    }
}
