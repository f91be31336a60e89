package dev.graphema.query.row;

import dev.graphema.event.Event;
import dev.graphema.trace.TraceId;
import java.util.function.Supplier;

/**
 * An event of a source, of which perhaps only the values of a {@linkplain Projection projection} were read. It is a view:
 * valid until its source moves to the next event. For one thread.
 */
public interface EventRow {
    /** Returns the time, in nanoseconds since 1970; for an event without a time, the time that determines its position. */
    long time();

    /** Returns the weight. */
    long weight();

    /** Returns the trace id if the weight is not 1 or the trace is in the projection; null if there is none. */
    TraceId trace();

    /** Returns the value of a name of the projection by its index; null if there is none. */
    Object value(int index);

    /** Returns the event with at least the values of the projection. */
    Event event();

    /**
     * Returns the position within the unit of the source, such as a file: positive, ascending, and the same whenever the
     * unit is read. It orders events of the same time.
     */
    long position();

    /**
     * Keeps what is needed to read the complete event later; its result is null if the rest of the event is damaged,
     * which is recorded.
     */
    Supplier<Event> keep();
}
