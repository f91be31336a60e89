package dev.graphema.query.row;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;

/**
 * The values of an event that are read: those of some names, or all. Time and weight are always read, and the trace id
 * if the weight is not 1. Immutable.
 */
public final class Projection {
    /** All values. */
    public static final Projection ALL = new Projection(null);

    private final List<Name> names;

    private Projection(Collection<Name> names) {
        this.names = names == null ? null : List.copyOf(names);
    }

    /** Returns the projection of these names, in their order. */
    public static Projection of(Collection<Name> names) {
        return new Projection(new LinkedHashSet<>(names));
    }

    /** Returns the projection of the names in a condition. */
    public static Projection of(Condition condition) {
        return looksAtAnyText(condition.expression()) ? ALL : of(condition.names());
    }

    private static boolean looksAtAnyText(Expression expression) {
        if (expression instanceof Expression.And and) {
            return and.parts().stream().anyMatch(Projection::looksAtAnyText);
        }
        if (expression instanceof Expression.Or or) {
            return or.parts().stream().anyMatch(Projection::looksAtAnyText);
        }
        if (expression instanceof Expression.Not not) {
            return looksAtAnyText(not.part());
        }
        return expression instanceof Expression.Phrase || expression instanceof Expression.Nearby;
    }

    /** Returns the projection of both, the names of this one first. */
    public Projection and(Projection other) {
        if (isAll() || other.isAll()) {
            return ALL;
        }
        Set<Name> both = new LinkedHashSet<>(names);
        both.addAll(other.names);
        return new Projection(both);
    }

    /** Returns the names; empty if all values are read. */
    public List<Name> listed() {
        return isAll() ? List.of() : names;
    }

    /** Returns whether all values are read. */
    public boolean isAll() {
        return names == null;
    }

    /** Returns the value of a name by its index, or null. */
    public Object value(int index, Event event) {
        return names.get(index).value(event);
    }

    /** Returns the index of an attribute; -1 if it is not read. */
    public int place(Attribute attribute) {
        return names.indexOf(new Name(attribute, null));
    }

    /** Returns whether a value of the failure is read. */
    public boolean hasFailure() {
        return has(Attribute.FAILURE_TYPE) || has(Attribute.FAILURE_MESSAGE) || has(Attribute.FAILURE_FINGERPRINT);
    }

    /** Returns an event that has only time, level, weight and the values of this projection. */
    public Event project(Event event) {
        if (isAll()) {
            return event;
        }
        Draft draft = Draft.ofWritten(names.size()).level(event.level()).weight(event.weight());
        draft = event.hasTime() ? draft.time(event.epochNanos()) : draft.timeless(event.epochNanos());
        for (Name name : names) {
            Object value = name.value(event);
            if (name.attribute() == null && value != null) {
                draft.writer().put(name.field(), value);
            }
        }
        draft.trace(
                has(Attribute.TRACE) ? event.trace() : null,
                has(Attribute.SPAN) ? event.span() : null,
                has(Attribute.PARENT) ? event.parent() : null);
        draft.service(has(Attribute.SERVICE) ? event.service() : null)
                .instance(has(Attribute.INSTANCE) ? event.instance() : null)
                .logger(has(Attribute.LOGGER) ? event.logger() : null)
                .message(has(Attribute.MESSAGE) ? event.message() : null)
                .thread(has(Attribute.THREAD) ? event.thread() : null)
                .sequence(has(Attribute.SEQUENCE) || has(Attribute.EVENT_ID) ? event.sequence() : 0)
                .run(has(Attribute.EVENT_ID) ? event.run() : null)
                .repeat(has(Attribute.EVENT_REPEAT) && event.repeat())
                .held(has(Attribute.HELD) && event.held())
                .failure(hasFailure() ? event.failure() : null);
        return draft.finish();
    }

    private boolean has(Attribute attribute) {
        return place(attribute) >= 0;
    }
}
