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
 * What there is to be found in logs, to tell why nothing was.
 *
 * @param events how many events were looked at
 * @param first the time of the oldest, in nanoseconds since 1970; later than the last when no event says a time
 * @param last the time of the newest
 * @param fields the names of all their fields, with dots into groups
 * @param durations those of them that hold durations
 */
public record Survey(long events, long first, long last, Set<String> fields, Set<String> durations) {
    private static final int ENOUGH = 100_000;

    /** Looks at the first hundred thousand events, whatever condition and window the logs have. */
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

    /** The fields that the condition looks at and that no event has. */
    public Set<String> unknownFields(Condition condition) {
        Set<String> unknown = new LinkedHashSet<>();
        for (Name name : condition.names()) {
            if (name.field() != null && !fields.contains(name.field())) {
                unknown.add(name.field());
            }
        }
        return unknown;
    }

    /** The fields that hold durations, and that the condition compares with a number, which no duration is equal to. */
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
