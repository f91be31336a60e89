package dev.graphema.query.line;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import dev.graphema.event.Attribute;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.Set;

/**
 * What of an event is looked at: some attributes and fields, or everything. Time and weight always are, and the trace of an event that stands for
 * several. Immutable.
 */
public final class Projection {
    /** Everything. */
    public static final Projection ALL = new Projection(null, Set.of());

    private final EnumSet<Attribute> attributes;
    private final Set<String> fields;

    private Projection(EnumSet<Attribute> attributes, Set<String> fields) {
        this.attributes = attributes;
        this.fields = fields;
    }

    /** Of those names alone. */
    public static Projection of(Set<Name> names) {
        EnumSet<Attribute> attributes = EnumSet.noneOf(Attribute.class);
        Set<String> fields = new HashSet<>();
        for (Name name : names) {
            if (name.attribute() != null) {
                attributes.add(name.attribute());
            } else {
                fields.add(name.field());
            }
        }
        return new Projection(attributes, Set.copyOf(fields));
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

    /** Of what either is about. */
    public Projection and(Projection other) {
        if (isAll() || other.isAll()) {
            return ALL;
        }
        EnumSet<Attribute> both = EnumSet.copyOf(attributes);
        both.addAll(other.attributes);
        Set<String> all = new HashSet<>(fields);
        all.addAll(other.fields);
        return new Projection(both, Set.copyOf(all));
    }

    /** Whether everything is looked at. */
    public boolean isAll() {
        return attributes == null;
    }

    boolean has(Attribute attribute) {
        return attributes.contains(attribute);
    }

    /** Whether a failure, or what follows from it, is looked at. */
    boolean hasFailure() {
        return has(Attribute.FAILURE_TYPE) || has(Attribute.FAILURE_MESSAGE) || has(Attribute.FAILURE_FINGERPRINT);
    }

    /** The fields that are looked at, with dots into groups. */
    Set<String> fields() {
        return fields;
    }
}
