package dev.graphema.query.partial;

import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.row.EventRow;
import java.util.function.Supplier;

/**
 * A part of an answer: what some of the events contribute. Parts are filled independently, by threads, processes or
 * machines, and then merged. Merging is associative, and the result does not depend on how events were distributed over
 * parts, as far as the answer is exact. Mutable; for one thread at a time.
 *
 * @param <A> the type of the answer
 */
public interface Partial<A extends Answer> {
    /**
     * Adds an event.
     *
     * @param row the event with the values of the projection; valid during the call
     * @param order the order of events of the same time, unique in the source
     */
    void add(EventRow row, long order);

    /**
     * Moves the orders of events that are added from now on, for sources whose parts add events on their own and count their orders from 0.
     *
     * @param by is added to the orders, in addition to what was given before
     */
    default void shift(long by) {}

    /**
     * Merges this part and another one of the same question. Both must not be used afterwards.
     *
     * @return the merged part, which may be this one
     */
    Partial<A> merge(Partial<A> other);

    /** Returns whether more events would not change the answer, so that reading can end. */
    default boolean isComplete() {
        return false;
    }

    /** Returns whether sampled events were counted. */
    default boolean isEstimate() {
        return false;
    }

    /** Returns why the answer is limited, as a sentence; null if it is not. */
    default String truncated() {
        return null;
    }

    /**
     * Returns the answer. This part must not be used afterwards.
     *
     * @param coverage returns what was read; called last, because kept events are read completely for the answer
     */
    A answer(Supplier<Coverage> coverage);
}
