package dev.graphema.event;

import dev.graphema.text.Times;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.time.Instant;
import java.util.function.Predicate;

/**
 * The values of an event: of an immutable {@link Event}, or of a {@link Draft} that is being emitted or read. Conditions
 * test them without boxing or copying.
 */
public interface EventValues {
    /**
     * Returns whether the time is known. An event that was read from a log may have no time; then it has the time of
     * the previous event of its file, which determines its position.
     */
    boolean hasTime();

    /** Returns the time, in nanoseconds since 1970-01-01T00:00:00Z. */
    long epochNanos();

    /** Returns the level; null only for an event that was read from a log without levels. */
    Level level();

    /** Returns the name of the service, or null. */
    String service();

    /** Returns the instance of the service, or null. */
    String instance();

    /** Returns the dotted name of the logger; null only for an event that was read from a log without loggers. */
    String logger();

    /** Returns the message, or null. */
    String message();

    /** Returns the name of the thread that emitted the event, or null. */
    String thread();

    /** Returns the fields. Those of a draft change with it. */
    Fields fields();

    /** Returns the failure, or null. */
    Failure failure();

    /** Returns the {@linkplain Failure#fingerprint fingerprint} of the failure, or null. */
    default String fingerprint() {
        return failure() == null ? null : failure().fingerprint();
    }

    /** Returns the trace id, or null. */
    TraceId trace();

    /** Returns the id of the operation in which the event was emitted, or null. */
    SpanId span();

    /** Returns the id of the enclosing operation, or null. */
    SpanId parent();

    /** Returns the run of the process: 16 random hexadecimal digits, new at each start; or null. */
    String run();

    /**
     * Returns the number of the event in its process, from 1 without gaps; 0 for an event that was read from a log
     * without numbers.
     */
    long sequence();

    /** Returns how many events this one represents after sampling. */
    long weight();

    /** Returns whether a process that ended suddenly may have written the event before. */
    boolean repeat();

    /** Returns whether the event was held back in memory and written because of a later event. */
    boolean held();

    /** Returns the time. */
    default Instant time() {
        return Times.instant(epochNanos());
    }

    /** Returns run and sequence, which identify copies of the event; null if one of them is unknown. */
    default String id() {
        return run() == null || sequence() == 0 ? null : run() + "-" + sequence();
    }

    /** Returns the value of an attribute, or null. */
    default Object value(Attribute attribute) {
        return switch (attribute) {
            case TIME -> hasTime() ? time() : null;
            case LEVEL -> level() == null ? null : level().text();
            case SERVICE -> service();
            case INSTANCE -> instance();
            case LOGGER -> logger();
            case MESSAGE -> message();
            case TRACE -> trace();
            case SPAN -> span();
            case PARENT -> parent();
            case THREAD -> thread();
            case SEQUENCE -> sequence();
            case WEIGHT -> weight();
            case EVENT_ID -> id();
            case EVENT_REPEAT -> repeat();
            case HELD -> held();
            case FAILURE_TYPE -> failure() == null ? null : failure().type();
            case FAILURE_MESSAGE -> failure() == null ? null : failure().message();
            case FAILURE_FINGERPRINT -> fingerprint();
        };
    }

    /** Returns whether the event has the attribute and its value passes the test. */
    default boolean test(Attribute attribute, ValuePredicate test) {
        return switch (attribute) {
            case TIME -> hasTime() && test.time(epochNanos());
            case LEVEL -> level() != null && test.level(level());
            case SERVICE -> text(service(), test);
            case INSTANCE -> text(instance(), test);
            case LOGGER -> text(logger(), test);
            case MESSAGE -> text(message(), test);
            case TRACE -> trace() != null && test.text(trace().toString());
            case SPAN -> span() != null && test.text(span().toString());
            case PARENT -> parent() != null && test.text(parent().toString());
            case THREAD -> text(thread(), test);
            case SEQUENCE -> sequence() != 0 && test.integer(sequence());
            case WEIGHT -> test.integer(weight());
            case EVENT_ID -> text(id(), test);
            case EVENT_REPEAT -> test.bool(repeat());
            case HELD -> test.bool(held());
            case FAILURE_TYPE -> failureType(failure(), test);
            case FAILURE_MESSAGE -> failureMessage(failure(), test);
            case FAILURE_FINGERPRINT -> text(fingerprint(), test);
        };
    }

    /**
     * Returns whether the event has a field with this name and its value passes the test. A dot separates groups, see
     * {@link FieldWriter}; of a list, any item must pass.
     */
    default boolean test(String field, ValuePredicate test) {
        return fields().test(field, test);
    }

    /**
     * Returns whether any text of the event passes the test: message, logger, service, instance, texts in fields, types
     * and messages of the failure.
     */
    default boolean anyText(Predicate<String> test) {
        return passes(message(), test)
                || passes(logger(), test)
                || passes(service(), test)
                || passes(instance(), test)
                || fields().anyText(test)
                || failure() != null && failure().anyText(test);
    }

    private static boolean text(String value, ValuePredicate test) {
        return value != null && test.text(value);
    }

    private static boolean passes(String value, Predicate<String> test) {
        return value != null && test.test(value);
    }

    // A condition on the failure matches the failure or any of its causes: a time-out is found even if it was wrapped.
    private static boolean failureType(Failure failure, ValuePredicate test) {
        return failure != null && (test.text(failure.type()) || failureType(failure.cause(), test));
    }

    private static boolean failureMessage(Failure failure, ValuePredicate test) {
        return failure != null && (text(failure.message(), test) || failureMessage(failure.cause(), test));
    }
}
