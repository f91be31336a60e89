package dev.graphema.query;

import dev.graphema.event.Event;
import dev.graphema.event.TraceId;
import java.util.function.Supplier;

/** A possibly projected event, valid until the next one is read. */
interface EventRow {
    /** Returns the time, in nanoseconds since 1970. */
    long time();

    /** Returns the weight. */
    long weight();

    /** Returns the trace id if the weight is not 1 or the trace is in the projection; null if there is none. */
    TraceId trace();

    /** Returns the value of a name of the projection by its index; null if there is none. */
    Object value(int index);

    /** Returns the possibly projected event. */
    Event event();

    /**
     * Keeps what is needed to read the complete event later; its result is null if the rest of the line is damaged,
     * which is recorded.
     */
    Supplier<Event> keep();
}
