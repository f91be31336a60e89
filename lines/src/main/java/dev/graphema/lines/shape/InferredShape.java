package dev.graphema.lines.shape;

import dev.graphema.lines.time.DateOrder;
import java.util.Map;

/**
 * What the first lines of a log show of its shape. Immutable.
 *
 * @param names the meaning of names that only their values show
 * @param order the order of day and month in its dates; null if they do not show it
 * @param isTimed whether most of its lines of text begin with a time, so that others continue the event before
 * @param hasLevel whether, in most of its lines of text, a word of the level follows the time
 */
public record InferredShape(Map<String, Meaning> names, DateOrder order, boolean isTimed, boolean hasLevel) {
    /** Nothing was read. */
    public static final InferredShape NONE = new InferredShape(Map.of(), null, false, false);

    public InferredShape {
        names = Map.copyOf(names);
    }
}
