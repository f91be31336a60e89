package dev.graphema.event;

import java.util.function.Predicate;

/**
 * The values of an event, to be tested by a condition: of an event that is being emitted, or of one that is read.
 * Implementations neither box nor copy values.
 */
public interface EventValues {
    /** Returns whether the event has the attribute and its value passes the test. */
    boolean test(Attribute attribute, ValuePredicate test);

    /**
     * Returns whether the event has a field with this name and its value passes the test. A dot separates groups, see
     * {@link FieldWriter}; of a list, any item must pass.
     */
    boolean test(String field, ValuePredicate test);

    /**
     * Returns whether any text of the event passes the test: message, logger, service, instance, texts in fields, types
     * and messages of the failure.
     */
    boolean anyText(Predicate<String> test);
}
