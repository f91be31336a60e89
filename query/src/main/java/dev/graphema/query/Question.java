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
 * Which events are wanted, and what of them. Immutable.
 *
 * @param condition which
 * @param window of which time
 * @param projection what whoever asks looks at
 */
record Question(Condition condition, Window window, Projection projection) {
    static final Question ALL = new Question(Condition.EVERYTHING, Window.ALWAYS, Projection.ALL);

    /** The names of the fields that condition and asker name. */
    Set<String> fieldNames() {
        return Stream.concat(condition.names().stream(), projection.listed().stream())
                .map(Name::field)
                .filter(Objects::nonNull)
                .collect(Collectors.toSet());
    }

    boolean isAbout(Event event) {
        return window.contains(event.epochNanos()) && condition.matches(event);
    }

    /** Whether it is about the event of a line in our own form that the filter has let through. */
    boolean isAbout(OwnLine line) {
        return window.contains(line.time()) && condition.matches(line.event());
    }

    /** Whether it is about all lines in our own form that the filter lets through. */
    boolean isDecidedByFilter() {
        return window.isAlways() && LineFilter.decides(condition);
    }

    /** Rules out lines that cannot hold such an event, before they are read. */
    LineFilter filter() {
        return LineFilter.of(condition);
    }

    /** Reads of lines what condition and asker look at; null when the condition looks at everything, or at nothing and the asker does. */
    OwnLine ownLine() {
        Projection asked = Projection.of(condition);
        boolean isOfNoUse = asked.isAll() || projection.isAll() && condition.isEverything() && window.isAlways();
        return isOfNoUse ? null : new OwnLine(projection.isAll() ? asked : projection.and(asked));
    }
}
