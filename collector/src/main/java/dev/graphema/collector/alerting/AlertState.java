package dev.graphema.collector.alerting;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * The state of an alert for a group.
 *
 * @param rule the name of the alert
 * @param group the value; empty for all events
 * @param stage where it is
 * @param since when this stage began
 * @param firedAt when it fired; null if it has not
 * @param found what was found last
 */
record AlertState(String rule, String group, Stage stage, Instant since, Instant firedAt, String found) {
    /** The stages, one after the other; from the second one, it can also go back. */
    enum Stage {
        /** The test is met, but not long enough yet. */
        PENDING,
        FIRING,
        /** The test is not met any more, but not long enough yet. */
        CLEARING
    }

    /** Returns the id of this firing, by which receivers recognise repeated deliveries. */
    String id() {
        return Integer.toHexString((rule + "\n" + group).hashCode()) + "-" + firedAt.toEpochMilli();
    }

    Map<String, String> toMap() {
        Map<String, String> members = new LinkedHashMap<>();
        members.put("rule", rule);
        members.put("group", group);
        members.put("stage", stage.name());
        members.put("since", since.toString());
        members.put("fired", firedAt == null ? null : firedAt.toString());
        members.put("found", found);
        return members;
    }

    static AlertState of(Map<String, String> members) {
        return new AlertState(
                members.get("rule"),
                members.get("group"),
                Stage.valueOf(members.get("stage")),
                Instant.parse(members.get("since")),
                members.get("fired") == null ? null : Instant.parse(members.get("fired")),
                members.get("found"));
    }
}
