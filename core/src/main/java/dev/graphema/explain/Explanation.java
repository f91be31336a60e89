package dev.graphema.explain;

import dev.graphema.event.Level;
import java.util.List;

/**
 * How one event is processed, step by step.
 *
 * @param logger the logger of the event
 * @param level its level
 * @param steps all decisions in their order, including those after a rejection, because there may be several obstacles
 * @param sinks the names of the sinks that receive it; if {@link #isCertain} is false, those that receive it if it is
 *     kept
 * @param remedy how to have it written; empty if it is
 */
public record Explanation(String logger, Level level, List<Step> steps, List<String> sinks, String remedy) {
    /** The result of a step. */
    public enum Answer {
        YES,
        NO,
        /** It depends on chance or on the trace. */
        PERHAPS
    }

    /**
     * One decision.
     *
     * @param stage threshold, hold-back, sampling, route or sink
     * @param answer whether the event passes
     * @param why the reason
     * @param place where it is set: {@code graphema.yaml:3:12}, or {@code the program}, or empty for a default
     */
    public record Step(String stage, Answer answer, String why, String place) {}

    public Explanation {
        steps = List.copyOf(steps);
        sinks = List.copyOf(sinks);
    }

    /** Returns whether the result depends neither on chance nor on anything unknown. */
    public boolean isCertain() {
        return steps.stream().noneMatch(step -> step.answer() == Answer.PERHAPS);
    }

    /** Returns the explanation as lines of text. */
    @Override
    public String toString() {
        StringBuilder text = new StringBuilder();
        text.append(logger).append(" at level ").append(level.text()).append('\n');
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
            text.append("No sink receives it.\n").append(remedy);
        } else {
            text.append(isCertain() ? "It is written to " : "If it is kept, it is written to ")
                    .append(String.join(", ", sinks))
                    .append('.');
        }
        return text.toString();
    }
}
