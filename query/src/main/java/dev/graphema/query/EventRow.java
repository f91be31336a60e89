package dev.graphema.query;

import dev.graphema.event.Event;
import dev.graphema.event.TraceId;
import java.util.function.Supplier;

/** An event, of which there may be no more than what is looked at. To be looked at and let go of: another one may take its place afterwards. */
interface EventRow {
    /** The time, in nanoseconds since 1970. */
    long time();

    /** How many events it stands for. */
    long weight();

    /** The trace of an event that stands for several, or when it is looked at; null for none. */
    TraceId trace();

    /** The value of the name of that index among those that are looked at; null when it has none. */
    Object value(int index);

    /** The event, of which there may be no more than what is looked at. */
    Event event();

    /** Keeps what is needed to have all of the event later; then null when the rest of its line is none, which the reading tells. */
    Supplier<Event> keep();
}
