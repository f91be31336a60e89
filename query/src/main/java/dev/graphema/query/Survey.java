package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Name;
import java.io.IOException;
import java.time.Duration;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * An overview of logs, to explain why nothing was found.
 *
 * @param events the number of examined events
 * @param first the time of the oldest, in nanoseconds since 1970; later than the last if no event has a time
 * @param last the time of the newest
 * @param fields the names of all fields, with dots for groups
 * @param durations the fields that contain durations
 */
public record Survey(long events, long first, long last, Set<String> fields, Set<String> durations) {
    private static final int ENOUGH = 100_000;

    /** Examines the first hundred thousand events, independent of condition and window. */
    public static Survey of(Logs logs) throws IOException {
        Set<String> fields = new TreeSet<>();
        Set<String> durations = new TreeSet<>();
        long[] counts = {0, Long.MAX_VALUE, Long.MIN_VALUE};
        logs.where(Condition.EVERYTHING).during(Window.ALWAYS).read(event -> {
            counts[0]++;
            if (event.hasTime()) {
                counts[1] = Math.min(counts[1], event.epochNanos());
                counts[2] = Math.max(counts[2], event.epochNanos());
            }
            names("", event.fields().toMap(), fields, durations);
            return counts[0] < ENOUGH;
        });
        return new Survey(counts[0], counts[1], counts[2], fields, durations);
    }

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
        Set<String> compared = new LinkedHashSet<>();
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

    private static void names(String prefix, Map<?, ?> fields, Set<String> names, Set<String> durations) {
        fields.forEach((name, value) -> {
            names.add(prefix + name);
            if (value instanceof Duration) {
                durations.add(prefix + name);
            }
            if (value instanceof Map<?, ?> group) {
                names(prefix + name + ".", group, names, durations);
            }
        });
    }
}
