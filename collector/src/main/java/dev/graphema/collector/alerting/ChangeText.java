package dev.graphema.collector.alerting;

import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alert.AlertTest;
import dev.graphema.collector.text.FlatJson;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Expression;
import dev.graphema.condition.Literal;
import dev.graphema.condition.Name;
import dev.graphema.condition.Operator;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** What receivers read about a change. */
final class ChangeText {
    private ChangeText() {}

    static List<Notice> notices(AlertStates.Change change, String address) {
        AlertState state = change.state();
        AlertRule rule = change.rule();
        String of = state.group().isEmpty() ? "" : " (" + state.group() + ")";
        String subject = rule.name() + of + (change.isFiring() ? ": " + state.found() : " has ended");
        Instant from = state.firedAt().minus(rule.holds()).minus(rule.in());
        Map<String, String> members = new LinkedHashMap<>();
        members.put("alert", rule.name());
        members.put("state", change.isFiring() ? "firing" : "ended");
        members.put("group", state.group().isEmpty() ? null : state.group());
        members.put("at", change.at().toString());
        members.put("fired", state.firedAt().toString());
        members.put("found", state.found());
        members.put("test", rule.test().toString());
        members.put("where", where(rule, state.group()).toString());
        members.put("from", from.toString());
        members.put("to", change.at().toString());
        members.put(
                "command",
                "graphema find '" + where(rule, state.group()).toString().replace("'", "'\\''") + "' --during " + from
                        + "/" + change.at() + " --in " + address);
        members.put(
                "page",
                address + "/#q="
                        + URLEncoder.encode(
                                where(rule, state.group()) + " --from " + from + " --to " + change.at(),
                                StandardCharsets.UTF_8));
        String id = state.id() + (change.isFiring() ? "-fires" : "-ended");
        return rule.to().stream()
                .map(receiver -> new Notice(id, receiver, subject, FlatJson.of(members)))
                .toList();
    }

    private static Condition where(AlertRule rule, String group) {
        Name name = rule.test() instanceof AlertTest.NewValue fresh ? fresh.of() : rule.by();
        return name == null || group.isEmpty()
                ? rule.when()
                : rule.when().and(Condition.of(new Expression.Comparison(name, Operator.EQUAL, Literal.of(group))));
    }
}
