package dev.graphema.explain;

import dev.graphema.condition.Name;
import dev.graphema.condition.Reasons;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventValues;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.explain.Explanation.Answer;
import dev.graphema.explain.Explanation.Step;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.sampling.Keep;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.Route;
import dev.graphema.text.Times;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;

/** Explains how an event is processed under given settings. Immutable and thread-safe. */
public final class Explainer {
    /**
     * A threshold that was set at run time.
     *
     * @param why for which branch, and until when
     */
    public record ByHand(Level threshold, String why) {}

    private final Settings settings;
    private final Function<String, ByHand> byHand;

    /** Explains by the settings only. */
    public Explainer(Settings settings) {
        this(settings, logger -> null);
    }

    /** @param byHand returns the threshold that was set at run time for a logger, or null */
    public Explainer(Settings settings, Function<String, ByHand> byHand) {
        this.settings = settings;
        this.byHand = byHand;
    }

    /**
     * Explains how an event of the logger would be processed.
     *
     * @param fields adds its fields, including those of the context
     */
    public Explanation explain(String logger, Level level, Consumer<? super FieldWriter> fields) {
        return explain(new Draft()
                .time(Times.now())
                .logger(logger)
                .level(level)
                .message("")
                .fields(fields));
    }

    /**
     * Explains how this event would be processed. Its logger and level must be set; the draft cannot be used
     * afterwards.
     */
    public Explanation explain(Draft draft) {
        Event event =
                draft.service(settings.service()).instance(settings.instance()).finish();
        List<Step> steps = new ArrayList<>();
        boolean isIn = threshold(event, steps);
        boolean isDetail = holdBack(event, steps);
        boolean isKept = isDetail || sampling(event, steps);
        Set<String> reached = routes(event, steps);
        List<String> sinks = new ArrayList<>();
        for (Map.Entry<String, SinkSettings> sink : settings.sinks().entrySet()) {
            if (sink(sink.getKey(), sink.getValue(), event, reached.contains(sink.getKey()), steps) && isIn && isKept) {
                sinks.add(sink.getKey());
            }
        }
        return new Explanation(
                event.logger(), event.level(), steps, sinks, sinks.isEmpty() ? remedy(event, isIn, reached) : "");
    }

    /** Returns how to resolve the first obstacle. */
    private String remedy(Event event, boolean isIn, Set<String> reached) {
        if (event.level() == Level.OFF) {
            return "OFF is a threshold, and no event has this level: use another level.";
        }
        if (!isIn) {
            return "To enable it\n  in the settings: levels: {" + event.logger() + ": "
                    + event.level().text() + "}\n  at run time, for a limited time: graphema.threshold(\""
                    + event.logger()
                    + "\", Level." + event.level() + ", Duration.ofMinutes(10)), or setThreshold through JMX";
        }
        return reached.isEmpty()
                ? "To have it written: add a route that matches it."
                : "To have it written: lower the level of a sink that a route leads to.";
    }

    private boolean threshold(Event event, List<Step> steps) {
        ByHand hand = byHand.apply(event.logger());
        String branch = settings.thresholds().branchOf(event.logger());
        Level threshold = hand == null ? settings.thresholds().of(event.logger()) : hand.threshold();
        boolean passes = event.level().passes(threshold) && event.level() != Level.OFF;
        String why = threshold == Level.OFF
                ? "all loggers are off"
                : event.level().text() + (passes ? " is at or above " : " is below ") + threshold.text();
        String where = hand != null
                ? ", set at run time " + hand.why()
                : branch == null ? ", the default of all loggers" : ", set for " + branch;
        String place = hand != null ? "" : settings.place("levels." + (branch == null ? "default" : branch));
        steps.add(new Step("threshold", passes ? Answer.YES : Answer.NO, why + where, place));
        return passes;
    }

    /** Returns whether the event is held back if it belongs to a group. */
    private boolean holdBack(Event event, List<Step> steps) {
        HoldBackRule rule = settings.holdBack().orElse(null);
        if (rule == null) {
            return false;
        }
        String place = settings.place("hold-back");
        String when = rule.releaseWhen().toString();
        if (rule.releaseWhen().matches(event)) {
            steps.add(new Step(
                    "hold-back",
                    Answer.YES,
                    "releases the held events of its " + rule.by() + ", and is not sampled",
                    place));
            return true;
        }
        boolean isDetail = rule.isAbout(event.level()) && !isAskedFor(event);
        if (!isDetail) {
            String why = rule.isAbout(event.level())
                    ? "it was requested at run time, so it is not held"
                    : event.level().text() + " is not below " + rule.below().text();
            steps.add(new Step("hold-back", Answer.YES, why, place));
            return false;
        }
        String detail = event.level().text() + " is below " + rule.below().text() + ": ";
        boolean isKnown = Name.of(rule.by()).value(event) != null;
        steps.add(new Step(
                "hold-back",
                Answer.PERHAPS,
                detail
                        + (isKnown ? "" : "if it has a " + rule.by() + ", ")
                        + "held with its " + rule.by() + ", and written only if an event of it has " + when,
                place));
        return true;
    }

    private boolean isAskedFor(Event event) {
        ByHand hand = byHand.apply(event.logger());
        return hand != null && event.level().passes(hand.threshold());
    }

    private boolean sampling(Event event, List<Step> steps) {
        if (settings.sampling().isEmpty()) {
            return true;
        }
        boolean isError = event.level().passes(Level.ERROR);
        for (int i = 0; i < settings.sampling().size(); i++) {
            SamplingRule rule = settings.sampling().get(i);
            if ((!isError || rule.errors()) && rule.when().matches(event)) {
                boolean all = rule.keep().equals(Keep.ALL);
                String why = rule.keep().text() + " is kept"
                        + (rule.together() && !all ? ", complete traces only" : "")
                        + reasons(rule.when().toString(), event, rule);
                steps.add(
                        new Step("sampling", all ? Answer.YES : Answer.PERHAPS, why, settings.place("sampling." + i)));
                return true;
            }
        }
        steps.add(new Step("sampling", Answer.YES, isError ? "errors are not sampled" : "no rule matches it", ""));
        return true;
    }

    private static String reasons(String condition, EventValues event, SamplingRule rule) {
        return condition.isEmpty() ? "" : " where " + String.join("; ", Reasons.of(rule.when(), event));
    }

    /** Returns the names of the sinks to which routes lead. */
    private Set<String> routes(Event event, List<Step> steps) {
        if (settings.routes().isEmpty()) {
            steps.add(new Step("route", Answer.YES, "without routes, every event is written to every sink", ""));
            return settings.sinks().keySet();
        }
        Set<String> reached = new LinkedHashSet<>();
        boolean over = false;
        for (int i = 0; i < settings.routes().size(); i++) {
            Route route = settings.routes().get(i);
            String to = "to " + String.join(", ", route.to());
            boolean matches = route.when().matches(event);
            String reasons = String.join("; ", Reasons.of(route.when(), event));
            String why = over
                    ? to + ": not evaluated, because an earlier one matches"
                    : to + ": " + (reasons.isEmpty() ? "matches every event" : reasons);
            steps.add(new Step("route", matches && !over ? Answer.YES : Answer.NO, why, settings.place("routes." + i)));
            if (matches && !over) {
                reached.addAll(route.to());
                over = settings.firstMatch();
            }
        }
        return reached;
    }

    private boolean sink(String name, SinkSettings sink, Event event, boolean isReached, List<Step> steps) {
        boolean passes = event.level().passes(sink.threshold());
        if (isReached) {
            String why = name + " accepts "
                    + (sink.threshold() == Level.TRACE
                            ? "every level"
                            : sink.threshold().text() + " and above");
            steps.add(new Step("sink", passes ? Answer.YES : Answer.NO, why, settings.place("sinks." + name)));
        } else {
            steps.add(new Step("sink", Answer.NO, name + ": no route leads there", settings.place("sinks." + name)));
        }
        return isReached && passes;
    }
}
