package dev.graphema.lines.json;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.event.EventValues;
import dev.graphema.query.row.ProjectedValues;
import dev.graphema.query.row.Projection;
import dev.graphema.trace.TraceId;
import java.util.ArrayList;
import java.util.List;

/** A line in JSON of which only the values of a projection are read. They are valid until the next line. For one thread. */
public abstract class PartialLine extends Cursor {
    /** After this number of lines without a required value, partial reading is given up. */
    private static final int MOST_MISSING = 1_000;

    final Name[] names;
    final ProjectedValues projected;

    /** The values in the order of the names. */
    final Object[] values;

    /** The indexes of the names whose values must be in the line, and how many lines had none. */
    private final List<Integer> required = new ArrayList<>();

    private int missing;

    PartialLine(Projection projection) {
        projected = new ProjectedValues(projection, this::time);
        names = projected.names().toArray(new Name[0]);
        values = projected.array();
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

    public final long weight() {
        return projected.weight();
    }

    /** Returns the trace id if it is projected or the weight is not 1; null if there is none. */
    public final TraceId trace() {
        return projected.trace();
    }

    /** Returns the value of a name of the projection, as {@link Name#value} does. */
    public final Object value(int index) {
        return projected.value(index);
    }

    /** Returns an event with the projected values; without a failure. */
    public final Event event() {
        return projected.event();
    }

    /** Returns the projected values, valid until the next line. */
    public final EventValues values() {
        return projected.values();
    }
}
