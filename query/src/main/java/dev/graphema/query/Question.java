package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.query.line.LineFilter;
import dev.graphema.query.line.OwnLine;
import dev.graphema.query.line.Projection;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Which events to read, and which of their values. Immutable.
 *
 * @param condition the condition
 * @param window the window
 * @param projection the values
 */
record Question(Condition condition, Window window, Projection projection) {
    static final Question ALL = new Question(Condition.EVERYTHING, Window.ALWAYS, Projection.ALL);

    /** Returns the names of the fields in condition and projection. */
    Set<String> fieldNames() {
        return Stream.concat(condition.names().stream(), projection.listed().stream())
                .map(Name::field)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
    }

    boolean isAbout(Event event) {
        return window.contains(event.epochNanos()) && condition.matches(event);
    }

    /** Returns whether the event of a line in Graphema JSON, which the filter accepted, matches. */
    boolean isAbout(OwnLine line) {
        return window.contains(line.time()) && condition.matches(line.event());
    }

    /** Returns whether all lines in Graphema JSON that the filter accepts match. */
    boolean isDecidedByFilter() {
        return window.isAlways() && LineFilter.decides(condition);
    }

    /** Returns a filter that excludes lines without matching events before they are read. */
    LineFilter filter() {
        return LineFilter.of(condition);
    }

    /** Returns a reader of the values in condition and projection; null if all values or none are needed. */
    OwnLine ownLine() {
        Projection asked = Projection.of(condition);
        boolean isOfNoUse = asked.isAll() || projection.isAll() && condition.isEverything() && window.isAlways();
        return isOfNoUse ? null : new OwnLine(projection.isAll() ? asked : projection.and(asked));
    }
}
