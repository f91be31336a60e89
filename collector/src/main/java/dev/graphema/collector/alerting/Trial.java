package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertRule;
import dev.graphema.query.source.EventSource;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** Finds out when an alert would have fired in the past. */
public final class Trial {
    private static final Duration SHORTEST = Duration.ofMinutes(1);
    private static final int STEPS_OF_WINDOW = 4;

    private Trial() {}

    /**
     * A firing that would have been.
     *
     * @param ended null if it would still fire
     */
    public record Firing(String group, Instant fired, Instant ended, String found) {}

    /** Returns the time between two evaluations: a quarter of the window, at least a minute. */
    public static Duration step(AlertRule rule) {
        Duration quarter = rule.in().dividedBy(STEPS_OF_WINDOW);
        return quarter.compareTo(SHORTEST) < 0 ? SHORTEST : quarter;
    }

    /**
     * Evaluates an alert at each step of a period.
     *
     * @throws IOException if the source cannot be read
     */
    public static List<Firing> of(AlertRule rule, EventSource source, Instant from, Instant to) throws IOException {
        Evaluation evaluation = new Evaluation(source);
        AlertStates states = new AlertStates(List.of());
        List<Firing> firings = new ArrayList<>();
        for (Instant now = from; !now.isAfter(to); now = now.plus(step(rule))) {
            for (AlertStates.Change each : states.take(rule, evaluation.met(rule, now), now)) {
                AlertState state = each.state();
                if (!each.isFiring()) {
                    firings.removeIf(firing -> firing.group().equals(state.group())
                            && firing.fired().equals(state.firedAt()));
                }
                firings.add(new Firing(state.group(), state.firedAt(), each.isFiring() ? null : now, state.found()));
            }
        }
        return firings;
    }
}
