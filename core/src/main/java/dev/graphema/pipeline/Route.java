package dev.graphema.pipeline;

import dev.graphema.condition.Condition;
import java.util.List;

/**
 * Events for which the condition holds go to these sinks. Every route is asked; an event goes to a sink once, however many
 * routes lead there.
 *
 * @param when which events
 * @param to the sinks' names
 */
public record Route(Condition when, List<String> to) {
    public Route {
        to = List.copyOf(to);
    }
}
