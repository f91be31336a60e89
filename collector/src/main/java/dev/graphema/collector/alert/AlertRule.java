package dev.graphema.collector.alert;

import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import java.time.Duration;
import java.util.List;
import java.util.Objects;

/**
 * An alert.
 *
 * @param name unique
 * @param when which events it is about
 * @param test what must be so
 * @param in the length of the window before each moment
 * @param by the field whose values are examined one by one; null for all events together
 * @param holds how long it must be so before the alert fires
 * @param clears how long it must not be so before the alert ends
 * @param to the names of receivers
 */
public record AlertRule(
        String name,
        Condition when,
        AlertTest test,
        Duration in,
        Name by,
        Duration holds,
        Duration clears,
        List<String> to) {
    public AlertRule {
        Objects.requireNonNull(name, "name");
        Objects.requireNonNull(when, "when");
        Objects.requireNonNull(test, "test");
        Objects.requireNonNull(in, "in");
        Objects.requireNonNull(holds, "holds");
        Objects.requireNonNull(clears, "clears");
        to = List.copyOf(to);
    }
}
