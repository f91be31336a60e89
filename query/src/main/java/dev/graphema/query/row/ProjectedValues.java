package dev.graphema.query.row;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventValues;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.function.LongSupplier;

/**
 * The values of a projection that a source has read of an event, without creating it. Conditions test them. Used again
 * for each event; for one thread.
 */
public final class ProjectedValues {
    /** The attributes that are read as values. */
    private static final Set<Attribute> READ = EnumSet.of(
            Attribute.LEVEL,
            Attribute.SERVICE,
            Attribute.INSTANCE,
            Attribute.LOGGER,
            Attribute.MESSAGE,
            Attribute.TRACE,
            Attribute.SPAN,
            Attribute.PARENT,
            Attribute.THREAD,
            Attribute.FAILURE_TYPE,
            Attribute.FAILURE_MESSAGE,
            Attribute.FAILURE_FINGERPRINT);

    private final LongSupplier time;
    private final Name[] names;
    private final Object[] values;

    /** Whether the value is that of the source, and not derived from the event. */
    private final boolean[] isRead;

    /** The draft of events; null until the first one. */
    private Draft draft;

    private Level level;
    private TraceId trace;
    private long weight;
    private boolean isMade;

    /** Null until it is requested. */
    private Event event;

    /**
     * Creates values.
     *
     * @param projection not all values
     * @param time returns the time of the current event, in nanoseconds since 1970; called only if it is needed
     */
    public ProjectedValues(Projection projection, LongSupplier time) {
        this.time = time;
        names = projection.listed().toArray(new Name[0]);
        values = new Object[names.length];
        isRead = new boolean[names.length];
        for (int i = 0; i < names.length; i++) {
            isRead[i] = names[i].field() != null || READ.contains(names[i].attribute());
        }
    }

    /** Returns the names, in the order of the projection. */
    public List<Name> names() {
        return List.of(names);
    }

    /** Returns the values in the order of the names, which the source sets; null for a missing one. */
    public Object[] array() {
        return values;
    }

    /** Removes the values of the previous event. */
    public void clear() {
        Arrays.fill(values, null);
        level = null;
        trace = null;
        weight = 1;
        isMade = false;
        event = null;
    }

    public void level(Level level) {
        this.level = level;
    }

    /** Returns the level; null for none. */
    public Level level() {
        return level;
    }

    public void trace(TraceId trace) {
        this.trace = trace;
    }

    /** Returns the trace id if it is projected or the weight is not 1; null if there is none. */
    public TraceId trace() {
        return trace;
    }

    public void weight(long weight) {
        this.weight = weight;
    }

    public long weight() {
        return weight;
    }

    /** Returns whether a value of the projection is not simply that of the source, but follows from the event. */
    public boolean isDerived(int index) {
        return !isRead[index]
                || names[index].attribute() == Attribute.HELD
                || names[index].attribute() == Attribute.EVENT_REPEAT;
    }

    /** Returns the value of a name of the projection, as {@link Name#value} does. */
    public Object value(int index) {
        if (!isRead[index]) {
            return names[index].value(values());
        }
        Attribute attribute = names[index].attribute();
        boolean isBoolean = attribute == Attribute.HELD || attribute == Attribute.EVENT_REPEAT;
        return values[index] == null && isBoolean ? Boolean.FALSE : values[index];
    }

    /** Returns an event with the projected values; a failure has no more than its projected type and message. */
    public Event event() {
        if (event == null) {
            values();
            event = draft.finish();
        }
        return event;
    }

    /** Returns the projected values, valid until the next event. */
    public EventValues values() {
        if (!isMade) {
            isMade = true;
            draft = draft == null ? Draft.ofWritten(names.length) : draft;
            draft.again().time(time.getAsLong()).level(level).weight(weight).trace(trace, null, null);
            for (int i = 0; i < names.length; i++) {
                if (values[i] != null) {
                    put(names[i], values[i]);
                }
            }
        }
        return draft;
    }

    /** Adds a part of a failure. */
    private void failure(String type, String message) {
        Failure known = draft.failure();
        draft.failure(new Failure(
                known == null || type != null ? type : known.type(),
                known == null || message != null ? message : known.message(),
                List.of(),
                0,
                0,
                null,
                List.of()));
    }

    private void put(Name name, Object value) {
        if (name.attribute() == null) {
            draft.writer().put(name.field(), value);
            return;
        }
        switch (name.attribute()) {
            case SERVICE -> draft.service((String) value);
            case INSTANCE -> draft.instance((String) value);
            case LOGGER -> draft.logger((String) value);
            case MESSAGE -> draft.message((String) value);
            case THREAD -> draft.thread((String) value);
            case SPAN -> draft.trace(trace, (SpanId) value, draft.parent());
            case PARENT -> draft.trace(trace, draft.span(), (SpanId) value);
            case SEQUENCE -> draft.sequence((long) value);
            case EVENT_REPEAT -> draft.repeat(true);
            case HELD -> draft.held(true);
            case FAILURE_TYPE -> failure((String) value, null);
            case FAILURE_MESSAGE -> failure(null, (String) value);
            case FAILURE_FINGERPRINT -> draft.fingerprint((String) value);
            default -> {
                // level, trace and weight are there
            }
        }
    }
}
