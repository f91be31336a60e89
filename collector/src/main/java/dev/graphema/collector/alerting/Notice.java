package dev.graphema.collector.alerting;

import java.util.LinkedHashMap;
import java.util.Map;

/**
 * A change of an alert on its way to a receiver.
 *
 * @param id the same for repeated deliveries
 * @param receiver the name of the receiver
 * @param subject a line for people
 * @param body JSON for programs
 */
record Notice(String id, String receiver, String subject, String body) {
    Map<String, String> toMap() {
        Map<String, String> members = new LinkedHashMap<>();
        members.put("id", id);
        members.put("receiver", receiver);
        members.put("subject", subject);
        members.put("body", body);
        return members;
    }

    static Notice of(Map<String, String> members) {
        return new Notice(members.get("id"), members.get("receiver"), members.get("subject"), members.get("body"));
    }
}
