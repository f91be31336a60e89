package dev.graphema.lines;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.json.ForeignLine;
import dev.graphema.lines.json.LineFilter;
import dev.graphema.lines.json.PartialLine;
import dev.graphema.lines.json.ProjectedLine;
import dev.graphema.lines.shape.LinePlace;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.Window;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.Scan;
import java.util.Collections;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Which events are read of lines, and which of their values. Immutable.
 *
 * @param condition the condition
 * @param window the window
 * @param projection the values
 */
record LineSelection(Condition condition, Window window, Projection projection) {
    static LineSelection of(Scan scan) {
        return new LineSelection(scan.where(), scan.during(), scan.projection());
    }

    /** Returns all values of the events that match a condition. */
    static LineSelection of(Condition condition) {
        return new LineSelection(condition, Window.ALWAYS, Projection.ALL);
    }

    /** Returns the names of the fields in condition and projection. */
    Set<String> fieldNames() {
        return Stream.concat(condition.names().stream(), projection.listed().stream())
                .map(Name::field)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
    }

    boolean contains(Event event) {
        return window.contains(event.epochNanos()) && condition.matches(event);
    }

    /** Returns whether the event of a line, which the filter accepted, is selected. */
    boolean contains(PartialLine line) {
        return window.contains(line.time()) && condition.matches(line.values());
    }

    /** Returns whether all lines in Graphema JSON that the filter accepts are selected. */
    boolean isDecidedByFilter(LineShape shape) {
        return window.isAlways() && LineFilter.decides(condition) && !asksForMoreThanValues(shape);
    }

    /** Returns a filter that excludes lines without selected events before they are read. */
    LineFilter filter(LineShape shape) {
        return asksForMoreThanValues(shape) ? LineFilter.ALL : LineFilter.of(condition);
    }

    /** Returns a reader of the values in condition and projection; null if all values or none are needed. */
    ProjectedLine projectedLine(LineShape shape) {
        Projection values = needed(shape);
        ProjectedLine line = values == null ? null : new ProjectedLine(values);
        requireParts(line, shape);
        return line;
    }

    /** As {@link #projectedLine}, for lines in another program's JSON. */
    ForeignLine foreignLine(LineShape shape) {
        Projection values = needed(shape);
        ForeignLine line = values == null ? null : ForeignLine.of(values, shape);
        requireParts(line, shape);
        return line;
    }

    /** A name such as {@code request.host} is that of a field, or denotes a part of a text if there is no such field. */
    private static void requireParts(PartialLine line, LineShape shape) {
        if (line != null) {
            shape.askedParts().forEach(part -> line.require(part.name()));
        }
    }

    /** Returns the values that decide whether an event is selected, and those of the projection unless it is complete. */
    private Projection needed(LineShape shape) {
        Projection asked = Projection.of(condition);
        boolean isUseless = !Collections.disjoint(shape.asked(), LinePlace.NAMES)
                || asked.isAll()
                || projection.isAll() && condition.isEverything() && window.isAlways();
        return isUseless ? null : projection.isAll() ? asked : projection.and(asked);
    }

    /** Whether a name denotes a place or a part of a text, which is computed from a complete event. */
    private boolean asksForMoreThanValues(LineShape shape) {
        return shape.asked().stream().anyMatch(shape::isComputed);
    }
}
