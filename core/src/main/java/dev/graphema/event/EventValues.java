package dev.graphema.event;

import java.util.function.Predicate;

/**
 * Something that a condition can be asked about: an event being said, or one read from a file. Nothing is boxed or
 * copied to answer.
 */
public interface EventValues {
    /** Whether the event has the attribute and its value passes the test. */
    boolean test(Attribute attribute, ValuePredicate test);

    /**
     * Whether the event has a field of that name and its value passes the test. A dot goes into groups, see
     * {@link FieldWriter}; of a list, one item has to pass.
     */
    boolean test(String field, ValuePredicate test);

    /**
     * Whether one of the event's texts passes: message, logger, service, instance, every text among the fields, the
     * failure's types and messages.
     */
    boolean anyText(Predicate<String> test);
}
