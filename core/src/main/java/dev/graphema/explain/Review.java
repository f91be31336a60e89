package dev.graphema.explain;

import dev.graphema.condition.Condition;
import dev.graphema.event.Attribute;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.Route;
import dev.graphema.text.Nearest;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Finds settings that are valid but have no effect: routes and rules that never match, sinks without events, thresholds
 * that exclude the events of a route or sink.
 *
 * <p>Only level, service and instance of events are known; all other values are considered possible. Findings are
 * therefore certain, but not complete.
 */
public final class Review {
    /**
     * A finding.
     *
     * @param place where it is set
     * @param text the problem, and what to do
     */
    public record Finding(String place, String text) {
        @Override
        public String toString() {
            return place.isEmpty() ? text : place + ": " + text;
        }
    }

    private static final List<Level> LEVELS =
            Arrays.stream(Level.values()).filter(level -> level != Level.OFF).toList();

    private final Settings settings;
    private final Level lowest;
    private static final String DEFAULT = "default";

    private final List<Finding> findings = new ArrayList<>();

    private Review(Settings settings) {
        this.settings = settings;
        this.lowest = settings.thresholds().lowest();
    }

    /** Returns the findings in the order of the settings. */
    public static List<Finding> of(Settings settings) {
        Review review = new Review(settings);
        review.levels();
        review.rules();
        review.holdBack();
        Set<String> reached = review.routes();
        review.sinks(reached);
        return review.findings;
    }

    /** A name that is almost {@code default} sets the threshold of a logger that does not exist. */
    private void levels() {
        for (String logger : settings.thresholds().byName().keySet()) {
            boolean isMeant = logger.equals(DEFAULT)
                    || Nearest.hint(logger, Set.of(DEFAULT)).isEmpty();
            if (!isMeant) {
                add(
                        settings.place("levels." + logger),
                        "\"" + logger + "\" is the threshold of a logger with this name; did you mean default?");
            }
        }
    }

    private void rules() {
        boolean over = false;
        for (int i = 0; i < settings.sampling().size(); i++) {
            SamplingRule rule = settings.sampling().get(i);
            String place = settings.place("sampling." + i);
            Set<Level> levels = possible(rule.when());
            if (over) {
                add(place, "this sampling rule is never evaluated: an earlier one matches every event. Move it up");
            } else if (levels.isEmpty()) {
                add(place, "this sampling rule matches no event: " + rule.when() + " can never be true here");
            } else if (!rule.errors() && levels.stream().allMatch(level -> level.passes(Level.ERROR))) {
                add(
                        place,
                        "this sampling rule matches only errors, which it does not sample: add errors: true, or remove it");
            } else if (levels.stream().noneMatch(level -> level.passes(lowest))) {
                add(place, "this sampling rule matches " + described(levels) + " alone, " + hidden());
            }
            over |= rule.when().isEverything();
        }
    }

    private void holdBack() {
        HoldBackRule rule = settings.holdBack().orElse(null);
        if (rule == null) {
            return;
        }
        String place = settings.place("hold-back");
        Set<Level> releasing = possible(rule.releaseWhen());
        if (!rule.isAbout(lowest)) {
            add(
                    place,
                    "nothing is ever held back: it concerns events below "
                            + rule.below().text() + ", " + hidden());
        } else if (releasing.stream().noneMatch(level -> level.passes(lowest))) {
            add(place, "nothing that is held back is ever released: " + rule.releaseWhen() + " can never be true here");
        }
    }

    /** Returns the names of the sinks that can receive events. */
    private Set<String> routes() {
        if (settings.routes().isEmpty()) {
            return settings.sinks().keySet();
        }
        Set<String> reached = new LinkedHashSet<>();
        boolean over = false;
        for (int i = 0; i < settings.routes().size(); i++) {
            Route route = settings.routes().get(i);
            String place = settings.place("routes." + i);
            Set<Level> levels = possible(route.when());
            if (over) {
                add(
                        place,
                        "this route is never evaluated: an earlier one matches every event, and routing is first. Move it before"
                                + " that one");
            } else if (levels.isEmpty()) {
                add(place, "this route matches no event: " + route.when() + " can never be true here");
            } else if (levels.stream().noneMatch(level -> level.passes(lowest))) {
                add(place, "this route matches " + described(levels) + " alone, " + hidden());
            } else {
                reached.addAll(route.to());
                asked(route, levels, place);
            }
            over |= settings.firstMatch() && route.when().isEverything();
        }
        return reached;
    }

    /** Checks a route that refers to levels that never occur, or that its sinks do not accept. */
    private void asked(Route route, Set<Level> levels, String place) {
        boolean speaksOfLevels = route.when().names().stream().anyMatch(name -> name.attribute() == Attribute.LEVEL);
        if (!speaksOfLevels) {
            return;
        }
        Set<Level> refused = levels.stream()
                .filter(level -> !level.passes(lowest))
                .collect(Collectors.toCollection(LinkedHashSet::new));
        // "level <= info" means what is unimportant, not that trace should come.
        boolean hasUpperEnd = !levels.contains(Level.FATAL);
        if (!refused.isEmpty() && !hasUpperEnd && !levels.containsAll(LEVELS)) {
            add(place, "this route matches " + described(refused) + ", " + hidden());
        }
        for (String name : route.to()) {
            Level threshold = settings.sinks().get(name).threshold();
            Set<Level> untaken = levels.stream()
                    .filter(level -> level.passes(lowest) && !level.passes(threshold))
                    .collect(Collectors.toCollection(LinkedHashSet::new));
            if (!untaken.isEmpty() && !levels.containsAll(LEVELS)) {
                add(
                        place,
                        "this route sends " + described(untaken) + " to " + name + ", which accepts " + threshold.text()
                                + " and above (" + settings.place("sinks." + name)
                                + "): lower the level of the sink, or"
                                + " restrict the route");
            }
        }
    }

    private void sinks(Set<String> reached) {
        for (Map.Entry<String, SinkSettings> sink : settings.sinks().entrySet()) {
            String place = settings.place("sinks." + sink.getKey());
            if (!reached.contains(sink.getKey())) {
                add(place, "no event reaches the sink " + sink.getKey() + ": add a route to it, or remove it");
            } else if (sink.getValue().threshold() == Level.OFF) {
                add(place, "the sink " + sink.getKey() + " is off and receives no events: set its level, or remove it");
            }
        }
    }

    private String hidden() {
        String place = settings.place("levels.default");
        return "and no threshold accepts events below " + lowest.text() + (place.isEmpty() ? "" : " (" + place + ")")
                + ": lower one in levels";
    }

    private void add(String place, String text) {
        findings.add(new Finding(place, text));
    }

    private static String described(Set<Level> levels) {
        return levels.stream().map(Level::text).collect(Collectors.joining(", "));
    }

    /** Returns the levels for which the condition can be true. */
    private Set<Level> possible(Condition condition) {
        return LEVELS.stream()
                .filter(level -> condition.resolved().fold(new PartialEvaluation(known(level))) != Ternary.FALSE)
                .collect(Collectors.toCollection(LinkedHashSet::new));
    }

    private Event known(Level level) {
        return new Draft()
                .level(level)
                .service(settings.service())
                .instance(settings.instance())
                .finish();
    }
}
