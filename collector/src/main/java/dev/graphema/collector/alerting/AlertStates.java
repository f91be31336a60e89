package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alerting.AlertState.Stage;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;

/** The states of all alerts, from one evaluation to the next. For one thread. */
final class AlertStates {
    private final Map<List<String>, AlertState> states = new LinkedHashMap<>();

    /**
     * A change that others should know about.
     *
     * @param isFiring whether the alert fires; else it has ended
     */
    record Change(AlertRule rule, AlertState state, boolean isFiring, Instant at) {}

    AlertStates(Collection<AlertState> states) {
        states.forEach(this::put);
    }

    private void put(AlertState state) {
        states.put(List.of(state.rule(), state.group()), state);
    }

    Collection<AlertState> all() {
        return states.values();
    }

    /** Forgets alerts that are no longer defined. */
    void keepOnly(Collection<AlertRule> rules) {
        List<String> names = rules.stream().map(AlertRule::name).toList();
        states.values().removeIf(state -> !names.contains(state.rule()));
    }

    /**
     * Takes the result of an evaluation.
     *
     * @param met what was found for each group that meets the test
     * @return the changes
     */
    List<Change> take(AlertRule rule, Map<String, String> met, Instant now) {
        List<Change> changes = new ArrayList<>();
        TreeSet<String> groups = new TreeSet<>(met.keySet());
        states.values().stream()
                .filter(state -> state.rule().equals(rule.name()))
                .forEach(state -> groups.add(state.group()));
        for (String group : groups) {
            AlertState before = states.get(List.of(rule.name(), group));
            String found = met.get(group);
            AlertState after = found == null ? cleared(rule, before, now) : fired(rule, group, before, found, now);
            if (after == null) {
                states.remove(List.of(rule.name(), group));
            } else {
                put(after);
            }
            boolean wasFiring = before != null && before.stage() != Stage.PENDING;
            boolean isFiring = after != null && after.stage() != Stage.PENDING;
            if (wasFiring != isFiring) {
                changes.add(new Change(rule, isFiring ? after : before, isFiring, now));
            }
        }
        return changes;
    }

    private static AlertState fired(AlertRule rule, String group, AlertState before, String found, Instant now) {
        if (before != null && before.stage() != Stage.PENDING) {
            return new AlertState(rule.name(), group, Stage.FIRING, before.since(), before.firedAt(), found);
        }
        Instant since = before == null ? now : before.since();
        boolean isLongEnough = !now.isBefore(since.plus(rule.holds()));
        return isLongEnough
                ? new AlertState(rule.name(), group, Stage.FIRING, now, now, found)
                : new AlertState(rule.name(), group, Stage.PENDING, since, null, found);
    }

    /** Returns null if the alert has ended, or was not firing. */
    private static AlertState cleared(AlertRule rule, AlertState before, Instant now) {
        if (before.stage() == Stage.PENDING) {
            return null;
        }
        Instant since = before.stage() == Stage.CLEARING ? before.since() : now;
        return now.isBefore(since.plus(rule.clears()))
                ? new AlertState(before.rule(), before.group(), Stage.CLEARING, since, before.firedAt(), before.found())
                : null;
    }
}
