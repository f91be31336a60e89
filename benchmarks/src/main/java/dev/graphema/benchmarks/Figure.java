package dev.graphema.benchmarks;

import dev.graphema.event.Fields;
import dev.graphema.format.Json;
import java.util.Locale;

/**
 * A measured figure with its lower bound, measured in the same run.
 *
 * @param part the part of the benchmarks
 * @param name what was measured
 * @param value the value
 * @param unit its unit
 * @param beside the lower bound, or another tool; null for none
 * @param besideValue its value, in the same unit
 * @param goal the largest ratio to the bound, or the largest value if there is none; NaN for no goal
 * @param isAtLeast whether the goal is a lower limit
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

    /** Returns the ratio to the bound, or the value. */
    double figure() {
        return beside == null ? value : value / besideValue;
    }

    /** Returns whether the goal is met; null if there is none. */
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
