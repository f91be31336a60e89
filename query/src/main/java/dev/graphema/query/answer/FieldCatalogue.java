package dev.graphema.query.answer;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.TreeSet;

/**
 * The names of the fields that events have, for completion, and to explain why nothing was found. Immutable.
 *
 * @param events the number of examined events
 * @param first the time of the oldest, in nanoseconds since 1970; later than the last if no event has a time
 * @param last the time of the newest
 * @param fields the names of all fields, with dots for groups, in alphabetical order
 * @param durations the fields that contain durations
 * @param coverage what was read
 */
public record FieldCatalogue(
        long events, long first, long last, Set<String> fields, Set<String> durations, Coverage coverage)
        implements Answer {
    /** Returns the fields in the condition that no event has. */
    public Set<String> unknownFields(Condition condition) {
        Set<String> unknown = new LinkedHashSet<>();
        for (Name name : condition.names()) {
            if (name.field() != null && !fields.contains(name.field())) {
                unknown.add(name.field());
            }
        }
        return unknown;
    }

    /** Returns the fields with durations that the condition compares with a number. */
    public Set<String> durationsComparedWithNumbers(Condition condition) {
        Set<String> compared = new TreeSet<>();
        compared(condition.expression(), compared);
        compared.retainAll(durations);
        return compared;
    }

    private static void compared(Expression expression, Set<String> to) {
        if (expression instanceof Expression.And and) {
            and.parts().forEach(part -> compared(part, to));
        } else if (expression instanceof Expression.Or or) {
            or.parts().forEach(part -> compared(part, to));
        } else if (expression instanceof Expression.Not not) {
            compared(not.part(), to);
        } else if (expression instanceof Expression.Comparison comparison
                && comparison.literal().value() instanceof Number) {
            to.add(String.valueOf(comparison.name().field()));
        } else if (expression instanceof Expression.Between between
                && between.low().value() instanceof Number) {
            to.add(String.valueOf(between.name().field()));
        }
    }
}
