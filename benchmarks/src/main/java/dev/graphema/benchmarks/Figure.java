package dev.graphema.benchmarks;

import dev.graphema.event.Fields;
import dev.graphema.format.Json;
import java.util.Locale;

/**
 * Something measured, beside what was measured in the same run as its limit.
 *
 * @param part of what it is about
 * @param name what was measured
 * @param value how much
 * @param unit of what
 * @param beside the limit, or the rival; null for none
 * @param besideValue how much that is, in the same unit
 * @param goal how many times the limit it may be, or how much where there is none; NaN for no goal
 * @param isAtLeast whether the goal is to be reached, and not to be kept below
 */
record Figure(
        String part,
        String name,
        double value,
        String unit,
        String beside,
        double besideValue,
        double goal,
        boolean isAtLeast) {
    static final String HEADING =
            "%-9s %-34s %12s %-9s  %-40s %12s %8s %9s".formatted("", "", "", "", "beside", "", "ratio", "goal");

    static Figure alone(String part, String name, double value, String unit) {
        return new Figure(part, name, value, unit, null, Double.NaN, Double.NaN, false);
    }

    static Figure atMost(double goal, String part, String name, double value, String unit) {
        return new Figure(part, name, value, unit, null, Double.NaN, goal, false);
    }

    Figure beside(String other, double otherValue) {
        return new Figure(part, name, value, unit, other, otherValue, goal, isAtLeast);
    }

    Figure beside(Figure other) {
        return beside(other.name, other.value);
    }

    Figure within(double times) {
        return new Figure(part, name, value, unit, beside, besideValue, times, false);
    }

    Figure atLeast(double times) {
        return new Figure(part, name, value, unit, beside, besideValue, times, true);
    }

    /** The value, or how many times the limit it is. */
    double figure() {
        return beside == null ? value : value / besideValue;
    }

    /** Whether the goal is met; null when there is none. */
    Boolean isMet() {
        return Double.isNaN(goal) ? null : isAtLeast ? figure() >= goal : figure() <= goal;
    }

    @Override
    public String toString() {
        String wanted = Double.isNaN(goal) ? "" : (isAtLeast ? ">= " : "<= ") + rounded(goal);
        String verdict = isMet() == null ? "" : isMet() ? "met" : "NOT met";
        return "%-9s %-34s %12s %-9s  %-40s %12s %8s %9s  %s"
                .formatted(
                        part,
                        name,
                        rounded(value),
                        unit,
                        beside == null ? "" : beside,
                        beside == null ? "" : rounded(besideValue),
                        beside == null ? "" : String.format(Locale.ROOT, "%.2f", figure()),
                        wanted,
                        verdict)
                .stripTrailing();
    }

    private static String rounded(double value) {
        return String.format(Locale.ROOT, Math.abs(value) >= 100 ? "%,.0f" : "%.2f", value);
    }

    String toJson() {
        return Json.of(Fields.of(f -> {
            f.put("part", part).put("name", name).put("value", value).put("unit", unit);
            if (beside != null) {
                f.put("beside", beside).put("beside_value", besideValue).put("ratio", figure());
            }
            if (isMet() != null) {
                f.put(isAtLeast ? "at_least" : "at_most", goal).put("met", isMet());
            }
        }));
    }
}
