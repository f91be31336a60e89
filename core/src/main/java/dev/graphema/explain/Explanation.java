package dev.graphema.explain;

import dev.graphema.event.Level;
import java.util.List;

/**
 * What becomes of one event, step by step.
 *
 * @param logger the event's logger
 * @param level its level
 * @param steps every decision, in the order in which they are taken; also those after one that turns the event away, since
 *     that may be only one of several things in its way
 * @param sinks the names of the sinks that get it; when {@link #isCertain} is false, those that get it if it is kept
 * @param remedy what to do so that it is written; empty when it is
 */
public record Explanation(String logger, Level level, List<Step> steps, List<String> sinks, String remedy) {
    /** How a step answers. */
    public enum Answer {
        YES,
        NO,
        /** It depends on chance or on the trace. */
        PERHAPS
    }

    /**
     * One decision.
     *
     * @param stage what decides: threshold, hold-back, sampling, route or sink
     * @param answer whether the event passes
     * @param why the reason, in words
     * @param place where that was set: {@code graphema.yaml:3:12}, or {@code the program}, or empty for a default
     */
    public record Step(String stage, Answer answer, String why, String place) {}

    public Explanation {
        steps = List.copyOf(steps);
        sinks = List.copyOf(sinks);
    }

    /** Whether neither chance nor anything that is not known decides. */
    public boolean isCertain() {
        return steps.stream().noneMatch(step -> step.answer() == Answer.PERHAPS);
    }

    /** As text for people, in lines. */
    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        text.append(logger).append(" says ").append(level.text()).append('\n');
        for (Step step : steps) {
            String answer = switch (step.answer()) {
                case YES -> "yes";
                case NO -> "NO";
                case PERHAPS -> "perhaps";
            };
            text.append(String.format("  %-7s  %-9s  %s", answer, step.stage(), step.why()));
            if (!step.place().isEmpty()) {
                text.append("  (").append(step.place()).append(')');
            }
            text.append('\n');
        }
        if (sinks.isEmpty()) {
            text.append("It goes nowhere.\n").append(remedy);
        } else {
            text.append(isCertain() ? "It goes to " : "If it is kept, it goes to ")
                    .append(String.join(", ", sinks))
                    .append('.');
        }
        return text.toString();
    }
}
