package dev.graphema.sink;

import dev.graphema.condition.Condition;
import java.util.List;

/**
 * A route: events that match the condition are written to these sinks. All routes are evaluated; an event is written to
 * a sink once.
 *
 * @param when the condition
 * @param to the names of the sinks
 */
public record Route(Condition when, List<String> to) {
    public Route {
        to = List.copyOf(to);
    }
}
