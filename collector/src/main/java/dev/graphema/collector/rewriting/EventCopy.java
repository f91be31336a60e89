package dev.graphema.collector.rewriting;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Fields;

/** Drafts with the values of events. */
public final class EventCopy {
    private EventCopy() {}

    /**
     * Returns a draft with the values of an event.
     *
     * @param fields the fields instead of its own
     */
    public static Draft of(Event event, Fields fields) {
        Draft draft = untimed(event, fields);
        return event.hasTime() ? draft.time(event.epochNanos()) : draft.timeless(event.epochNanos());
    }

    /**
     * As above.
     *
     * @param time the time if the event has none, in nanoseconds since 1970
     */
    public static Draft of(Event event, Fields fields, long time) {
        return untimed(event, fields).time(event.hasTime() ? event.epochNanos() : time);
    }

    private static Draft untimed(Event event, Fields fields) {
        return Draft.ofWritten(fields.count())
                .level(event.level())
                .service(event.service())
                .instance(event.instance())
                .logger(event.logger())
                .message(event.message())
                .thread(event.thread())
                .failure(event.failure())
                .fingerprint(event.fingerprint())
                .trace(event.trace(), event.span(), event.parent())
                .sequence(event.sequence())
                .run(event.run())
                .repeat(event.repeat())
                .held(event.held())
                .weight(event.weight())
                .missingFields(fields);
    }
}
