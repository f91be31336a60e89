package dev.graphema.query;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * What there is to be found in logs, to tell why nothing was.
 *
 * @param events how many events were looked at
 * @param first the time of the oldest, in nanoseconds since 1970
 * @param last the time of the newest
 * @param fields the names of all their fields, with dots into groups
 */
public record Survey(long events, long first, long last, Set<String> fields) {
    private static final int ENOUGH = 100_000;

    /** Looks at the first hundred thousand events, whatever condition and window the logs have. */
    public static Survey of(Logs logs) throws IOException {
        Set<String> fields = new TreeSet<>();
        long[] counts = {0, Long.MAX_VALUE, Long.MIN_VALUE};
        logs.where(Condition.EVERYTHING).during(Window.ALWAYS).read(event -> {
            counts[0]++;
            counts[1] = Math.min(counts[1], event.epochNanos());
            counts[2] = Math.max(counts[2], event.epochNanos());
            names(event, fields);
            return counts[0] < ENOUGH;
        });
        return new Survey(counts[0], counts[1], counts[2], fields);
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

    private static void names(Event event, Set<String> names) {
        names("", event.fields().toMap(), names);
    }

    private static void names(String prefix, Map<?, ?> fields, Set<String> names) {
        fields.forEach((name, value) -> {
            names.add(prefix + name);
            if (value instanceof Map<?, ?> group) {
                names(prefix + name + ".", group, names);
            }
        });
    }
}
