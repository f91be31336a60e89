package dev.graphema.collector.settings;

import dev.graphema.collector.CollectorOptions;
import dev.graphema.collector.alert.AlertReceiver;
import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alert.AlertTest;
import dev.graphema.collector.yaml.Given;
import dev.graphema.collector.yaml.Member;
import dev.graphema.collector.yaml.Member.Kind;
import dev.graphema.condition.Condition;
import dev.graphema.condition.ConditionException;
import dev.graphema.condition.Name;
import dev.graphema.text.Durations;
import dev.graphema.text.Nearest;
import java.net.URI;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** The members of a settings file about alerts. */
final class AlertMembers {
    static final Member ALERTS = Member.groups(
            "alerts",
            "conditions about which someone is notified",
            Member.required("name", Kind.TEXT, "a unique name"),
            Member.of("when", Kind.TEXT, "the condition for events; all by default"),
            Member.of("more-than", Kind.NUMBER, "fires if more events than this number are in the window"),
            Member.of("fewer-than", Kind.NUMBER, "fires if fewer events than this number are in the window"),
            Member.of(
                    "times-usual",
                    Kind.TEXT,
                    "fires if the window has this many times the usual number of the hour and weekday: 3"),
            Member.of("at-least", Kind.NUMBER, "the fewest events for times-usual; 10 by default"),
            Member.of("new", Kind.TEXT, "a field; fires if it has a value that did not occur before"),
            Member.of("within", Kind.TEXT, "how far back values are known for new; 30d by default"),
            Member.of("silent", Kind.BOOLEAN, "true: fires if there are no events in the window"),
            Member.of("in", Kind.TEXT, "the length of the window; 5m by default"),
            Member.of("by", Kind.TEXT, "a field whose values are examined one by one"),
            Member.of("holds", Kind.TEXT, "how long it must be so before it fires; 0s by default"),
            Member.of("clears", Kind.TEXT, "how long it must not be so before it ends; 5m by default"),
            Member.of("to", Kind.TEXTS, "names of receivers"));

    static final Member RECEIVERS = Member.groups(
            "receivers",
            "who is notified",
            Member.required("name", Kind.TEXT, "a unique name"),
            Member.of("url", Kind.TEXT, "an address that receives a POST with JSON"),
            Member.of("secret", Kind.TEXT, "the key of its signature, as a variable"),
            Member.of("mail", Kind.TEXT, "an address that receives mail"),
            Member.of("from", Kind.TEXT, "the address of the sender of mail"),
            Member.of("server", Kind.TEXT, "host and port of the mail server: mail.example:587"),
            Member.of("user", Kind.TEXT, "the name at the mail server"),
            Member.of("password", Kind.TEXT, "the password at the mail server, as a variable"));

    private static final List<String> TESTS = List.of("more-than", "fewer-than", "times-usual", "new", "silent");
    private static final long USUAL_LEAST = 10;

    private AlertMembers() {}

    static CollectorOptions read(Given given, CollectorOptions options) {
        CollectorOptions changed = options;
        Set<String> receivers = new HashSet<>();
        for (Given each : given.groups("receivers")) {
            AlertReceiver receiver = receiver(each);
            if (receiver != null && !receivers.add(receiver.name())) {
                each.problem("name", "there are two receivers \"" + receiver.name() + "\"");
            } else if (receiver != null) {
                changed = changed.receiver(receiver);
            }
        }
        Set<String> names = new HashSet<>();
        for (Given each : given.groups("alerts")) {
            AlertRule rule = rule(each, receivers);
            if (rule != null && !names.add(rule.name())) {
                each.problem("name", "there are two alerts \"" + rule.name() + "\"");
            } else if (rule != null) {
                changed = changed.alert(rule);
            }
        }
        return changed;
    }

    private static AlertReceiver receiver(Given given) {
        String name = given.text("name");
        if (name == null) {
            return null;
        }
        if (given.has("url") == given.has("mail")) {
            given.problem("name", "the receiver \"" + name + "\" needs either url or mail");
            return null;
        }
        if (given.has("mail")) {
            if (!given.has("from") || !given.has("server")) {
                given.problem("mail", "mail needs from and server, too");
                return null;
            }
            return new AlertReceiver.Mail(
                    name,
                    given.text("mail"),
                    given.text("from"),
                    given.text("server"),
                    given.text("user"),
                    given.text("password"));
        }
        try {
            URI url = URI.create(given.text("url"));
            boolean isHttp = "http".equals(url.getScheme()) || "https".equals(url.getScheme());
            if (isHttp && url.getHost() != null) {
                return new AlertReceiver.Web(name, url, given.text("secret"));
            }
        } catch (IllegalArgumentException e) {
            // the message below describes what is expected
        }
        given.problem(
                "url", "\"" + given.text("url") + "\" is not an address: expected such as https://desk.example/alerts");
        return null;
    }

    private static AlertRule rule(Given given, Set<String> receivers) {
        for (String each : given.texts("to")) {
            if (!receivers.contains(each)) {
                given.problem(
                        "to",
                        "\"" + each + "\" is no receiver: expected one of " + String.join(", ", receivers)
                                + Nearest.hint(each, receivers));
            }
        }
        AlertTest test = test(given);
        Condition when = condition(given);
        Duration in = duration(given, "in", Duration.ofMinutes(5));
        Duration holds = duration(given, "holds", Duration.ZERO);
        Duration clears = duration(given, "clears", Duration.ofMinutes(5));
        if (given.text("name") == null
                || test == null
                || when == null
                || in == null
                || holds == null
                || clears == null) {
            return null;
        }
        Name by = given.has("by") ? Name.of(given.text("by")) : null;
        return new AlertRule(given.text("name"), when, test, in, by, holds, clears, given.texts("to"));
    }

    private static Condition condition(Given given) {
        try {
            return given.has("when") ? Condition.parse(given.text("when")) : Condition.EVERYTHING;
        } catch (ConditionException e) {
            given.problem("when", e.getMessage());
            return null;
        }
    }

    private static Duration duration(Given given, String name, Duration missing) {
        if (!given.has(name)) {
            return missing;
        }
        Duration duration = Durations.parse(given.text(name));
        if (duration == null || duration.isNegative()) {
            given.problem(name, "\"" + given.text(name) + "\" is not a duration: expected such as 5m");
            return null;
        }
        return duration;
    }

    private static AlertTest test(Given given) {
        List<String> found = new ArrayList<>(TESTS);
        found.removeIf(each -> !given.has(each));
        if (found.size() != 1) {
            given.problem(
                    "name",
                    "expected one of " + String.join(", ", TESTS) + ", but found "
                            + (found.isEmpty() ? "none" : String.join(", ", found)));
            return null;
        }
        switch (found.get(0)) {
            case "more-than":
                return new AlertTest.MoreThan(given.number("more-than", 0));
            case "fewer-than":
                return new AlertTest.FewerThan(given.number("fewer-than", 1));
            case "new":
                Duration within = duration(given, "within", Duration.ofDays(30));
                return within == null ? null : new AlertTest.NewValue(Name.of(given.text("new")), within);
            case "silent":
                return new AlertTest.Silence();
            default:
                return usual(given);
        }
    }

    private static AlertTest usual(Given given) {
        try {
            double factor = Double.parseDouble(given.text("times-usual"));
            if (factor > 1 && factor < Double.MAX_VALUE) {
                return new AlertTest.TimesUsual(factor, given.number("at-least", USUAL_LEAST));
            }
        } catch (NumberFormatException e) {
            // the message below describes what is expected
        }
        given.problem(
                "times-usual", "\"" + given.text("times-usual") + "\" is not a number above 1: expected such as 3");
        return null;
    }
}
