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
 * What of an event is looked at: the values of some names, or everything. Time and weight always are, and the trace of an event that stands for
 * several. Immutable.
 */
public final class Projection {
    /** Everything. */
    public static final Projection ALL = new Projection(null);

    private final List<Name> names;

    private Projection(Collection<Name> names) {
        this.names = names == null ? null : List.copyOf(names);
    }

    /** Of those names alone, in their order. */
    public static Projection of(Collection<Name> names) {
        return new Projection(new LinkedHashSet<>(names));
    }

    /** Of what a condition looks at. */
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

    /** Of what either is about: the names of this one first. */
    public Projection and(Projection other) {
        if (isAll() || other.isAll()) {
            return ALL;
        }
        Set<Name> both = new LinkedHashSet<>(names);
        both.addAll(other.names);
        return new Projection(both);
    }

    /** The names that are looked at one by one; none when everything is. */
    public List<Name> listed() {
        return isAll() ? List.of() : names;
    }

    /** Whether everything is looked at. */
    public boolean isAll() {
        return names == null;
    }

    /** The names that are looked at; null when everything is. */
    List<Name> names() {
        return names;
    }

    /** The event's value of the name of that index, or null. */
    public Object value(int index, Event event) {
        return names.get(index).value(event);
    }

    /** Which of the names it is, counted from 0; -1 when it is not looked at. */
    int place(Attribute attribute) {
        return names.indexOf(new Name(attribute, null));
    }

    /** Whether a failure, or what follows from it, is looked at. */
    boolean hasFailure() {
        return place(Attribute.FAILURE_TYPE) >= 0
                || place(Attribute.FAILURE_MESSAGE) >= 0
                || place(Attribute.FAILURE_FINGERPRINT) >= 0;
    }
}
