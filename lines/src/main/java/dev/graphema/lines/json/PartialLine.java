package dev.graphema.lines.json;

import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventValues;
import dev.graphema.event.Level;
import dev.graphema.query.row.Projection;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;

/** A line in JSON of which only the values of a projection are read. They are valid until the next line. For one thread. */
public abstract class PartialLine extends Cursor {
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
            Attribute.FAILURE_FINGERPRINT);

    /** After so many lines without a required value, partial reading is given up. */
    private static final int MOST_MISSING = 1_000;

    final Name[] names;
    final Object[] values;

    /** Whether the value is that of the line, and not derived from the event. */
    private final boolean[] isRead;

    /** The indexes of the names whose values must be in the line, and how many lines had none. */
    private final List<Integer> required = new ArrayList<>();

    private int missing;

    /** The draft of events; null until the first one. */
    private Draft draft;

    /** Null for none. */
    Level level;

    TraceId trace;
    long weight;
    private boolean isMade;

    /** Null until it is requested. */
    private Event event;

    PartialLine(Projection projection) {
        names = projection.listed().toArray(new Name[0]);
        values = new Object[names.length];
        isRead = new boolean[names.length];
        for (int i = 0; i < names.length; i++) {
            isRead[i] = names[i].field() != null || READ.contains(names[i].attribute());
        }
    }

    /** Defines that lines without this field must be read completely. */
    public final void require(String field) {
        for (int i = 0; i < names.length; i++) {
            if (field.equals(names[i].field())) {
                required.add(i);
            }
        }
    }

    /**
     * Reads a line.
     *
     * @return false if it must be read completely
     */
    public final boolean read(byte[] line, int from, int to) {
        if (missing > MOST_MISSING || !readValues(line, from, to)) {
            return false;
        }
        for (int place : required) {
            if (values[place] == null) {
                missing++;
                return false;
            }
        }
        return true;
    }

    /**
     * Reads the values of a line.
     *
     * @return false if it must be read completely
     */
    abstract boolean readValues(byte[] line, int from, int to);

    /** Returns the time of the line, in nanoseconds since 1970. */
    public abstract long time();

    /** Removes the values of the previous line. */
    final void clear() {
        Arrays.fill(values, null);
        level = null;
        trace = null;
        weight = 1;
        isMade = false;
        event = null;
    }

    public final long weight() {
        return weight;
    }

    /** Returns the trace id if it is projected or the weight is not 1; null if there is none. */
    public final TraceId trace() {
        return trace;
    }

    /** Returns the value of a name of the projection, as {@link Name#value} does. */
    public final Object value(int index) {
        if (!isRead[index]) {
            return names[index].value(values());
        }
        Attribute attribute = names[index].attribute();
        boolean isBoolean = attribute == Attribute.HELD || attribute == Attribute.EVENT_REPEAT;
        return values[index] == null && isBoolean ? Boolean.FALSE : values[index];
    }

    /** Returns an event with the projected values; without a failure. */
    public final Event event() {
        if (event == null) {
            values();
            event = draft.finish();
        }
        return event;
    }

    /** Returns the projected values, valid until the next line. */
    public final EventValues values() {
        if (!isMade) {
            isMade = true;
            draft = draft == null ? Draft.ofWritten(names.length) : draft;
            draft.again().time(time()).level(level).weight(weight).trace(trace, null, null);
            for (int i = 0; i < names.length; i++) {
                if (values[i] != null) {
                    put(names[i], values[i]);
                }
            }
        }
        return draft;
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
            case FAILURE_FINGERPRINT -> draft.fingerprint((String) value);
            default -> {
                // level, trace and weight are there
            }
        }
    }
}
