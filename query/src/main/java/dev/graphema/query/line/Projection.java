package dev.graphema.query.line;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
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

    /** Returns the names; null if all values are read. */
    List<Name> names() {
        return names;
    }

    /** Returns the value of a name by its index, or null. */
    public Object value(int index, Event event) {
        return names.get(index).value(event);
    }

    /** Returns the index of an attribute; -1 if it is not read. */
    int place(Attribute attribute) {
        return names.indexOf(new Name(attribute, null));
    }

    /** Returns whether a value of the failure is read. */
    boolean hasFailure() {
        return place(Attribute.FAILURE_TYPE) >= 0
                || place(Attribute.FAILURE_MESSAGE) >= 0
                || place(Attribute.FAILURE_FINGERPRINT) >= 0;
    }
}
