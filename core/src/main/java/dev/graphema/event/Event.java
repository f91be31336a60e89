package dev.graphema.event;

import java.time.Instant;
import java.util.function.Predicate;

/**
 * Something that happened, said once: a level, the logger that said it, a constant message, typed fields, where it
 * belongs (trace and span), and the failure if there was one. Immutable and safe to share between threads once a {@link
 * Draft} has finished it.
 *
 * <p>Nothing in an event is ever evaluated: every text is data.
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
     * Whether its time is known. Without one, which only an event can be that was read from a log, it has the time of the event
     * before it in its file, by which it is shown in its place.
     */
    public boolean hasTime() {
        return !isTimeless;
    }

    /** When it was logged, in nanoseconds since 1970-01-01T00:00:00Z. */
    public long epochNanos() {
        return time;
    }

    /** When it was said. */
    public Instant time() {
        return Times.instant(time);
    }

    /** How severe it is; null only for an event read from a log that does not tell. */
    public Level level() {
        return level;
    }

    /** The service that said it, or null when it was not named. */
    public String service() {
        return service;
    }

    /** Which of the service's instances said it, or null. */
    public String instance() {
        return instance;
    }

    /** The dotted name of its source; null only for an event read from a log that does not tell. */
    public String logger() {
        return logger;
    }

    public String message() {
        return message;
    }

    /** The name of the thread that said it, or null. */
    public String thread() {
        return thread;
    }

    public Fields fields() {
        return fields;
    }

    /** What went wrong, or null. */
    public Failure failure() {
        return failure;
    }

    /** The trace it belongs to, or null. */
    public TraceId trace() {
        return trace;
    }

    /** The operation in which it was said, or null. */
    public SpanId span() {
        return span;
    }

    /** The operation of which that operation is a part, or null. */
    public SpanId parent() {
        return parent;
    }

    /** Its number within its process, from 1 without gaps; 0 for an event read from a log that does not tell. */
    public long sequence() {
        return sequence;
    }

    /** The run of the process that said it: 16 hexadecimal digits that every start draws anew, or null. */
    public String run() {
        return run;
    }

    /** Run and sequence, by which whoever gets the event twice can tell; null when one of them is not known. */
    public String id() {
        return run == null || sequence == 0 ? null : run + "-" + sequence;
    }

    /** Whether the same event may have been written before, by a process that then broke off. */
    public boolean repeat() {
        return repeat;
    }

    /** Whether it was held back in memory, and came out because something happened to what it belongs to. */
    public boolean held() {
        return held;
    }

    /** How many events it stands for after sampling. */
    public long weight() {
        return weight;
    }

    /** The value of an attribute, or null when the event does not have it. */
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

    /** The attributes and fields in one line, for tests and debuggers. */
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
