package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import java.io.IOException;
import java.util.Set;

/**
 * Something that has events and can be asked {@linkplain dev.graphema.query.Question questions}: files, a stream, memory, a
 * store, a server. Immutable, and safe to share between threads.
 *
 * <p>A source need not know any question. The simplest one returns rows of complete events; {@link QueryExecutor} does the
 * rest. A source that can do more decides conditions, reads only projected values, or fills partial answers on its own.
 */
public interface EventSource {
    /**
     * What a source can do beyond returning rows once, in any order. Which conditions it decides is stated by each {@link
     * Plan}, and which aggregates it fills on its own by {@link Part#addTo}.
     */
    enum Capability {
        /**
         * Returns rows in the order of time if requested: in each part, an event is at most {@value
         * OrderedRead#DISORDER} events away from its place.
         */
        ORDER,
        /** Can be read several times. */
        REPEATED_READING,
        /** Can be followed; see {@link #follow}. */
        LIVE
    }

    /** Returns the name in reports, such as a file or an address. */
    default String name() {
        return "events";
    }

    /** Returns what the source can do. */
    Set<Capability> capabilities();

    /**
     * Returns the source as it is now, for a question that reads it several times: events keep their places between the
     * passes.
     *
     * @throws IOException if the source cannot be read at all
     */
    default EventSource snapshot() throws IOException {
        return this;
    }

    /**
     * Divides the reading of events into parts.
     *
     * @param scan which events, which of their values, and in which order
     * @param coverage receives what is read and what cannot be read
     * @throws IOException if the source cannot be read at all
     */
    Plan plan(Scan scan, CoverageBuilder coverage) throws IOException;

    /**
     * Begins to follow the source.
     *
     * @param where the condition for events
     * @throws UnsupportedOperationException if the source is not {@link Capability#LIVE}
     * @throws IOException if the source cannot be read
     */
    default Following follow(Condition where) throws IOException {
        throw new UnsupportedOperationException("this source cannot be followed");
    }
}
