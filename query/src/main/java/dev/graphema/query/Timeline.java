package dev.graphema.query;

import dev.graphema.condition.Name;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Counts of events over time. Counts are sums of weights: where events were thinned, they are estimates. Immutable.
 *
 * @param step how long a step is
 * @param values the values of the field by which it is split, the most frequent first; empty when it is not
 * @param steps all steps from the first with an event to the last, those without any included
 * @param isEstimate whether events were thinned
 * @param reading what was read
 */
public record Timeline(Duration step, List<String> values, List<Step> steps, boolean isEstimate, Reading reading) {
    /** What stands for values beyond the most frequent ones. */
    public static final String OTHERS = Tally.OTHERS;

    private static final int MOST_VALUES = 1_000;

    /** A step is no spike unless it is so many times the usual one. */
    private static final double LEAST_RISE = 1.5;

    /** Of so many steps before and behind, a spike is the highest. */
    private static final int NEAR = 2;

    /**
     * One step.
     *
     * @param from its beginning, in nanoseconds since 1970
     * @param count how many events there were
     * @param byValue how many had which value, in the order of {@link Timeline#values}
     * @param isSpike whether there were far more than usual: more than the median and five times what steps usually differ from
     *     it, and more than in the two steps before and behind; so the top of each rise is marked
     */
    public record Step(long from, long count, List<Long> byValue, boolean isSpike) {}

    /**
     * How it is drawn.
     *
     * @param most how many steps at the most, when the step is not given
     * @param step how long a step is; null for what fits
     * @param zone where a day begins at midnight
     * @param split the field or attribute by whose values it is split; null for none
     * @param shown how many values are told apart
     */
    public record Plan(int most, Duration step, ZoneId zone, Name split, int shown) {}

    /** Counts the events of the logs. */
    public static Timeline of(Logs logs, Plan plan) throws IOException {
        Logs.Gathered<Counts> gathered = logs.only(plan.split() == null ? List.of() : List.of(plan.split()))
                .gather(
                        () -> new Counts(plan.split() != null, plan.step()),
                        (counts, row, order) -> counts.add(row),
                        Counts::plus);
        Reading reading = gathered.reading();
        Steps<Map<String, Long>> steps = gathered.result().steps;
        Map<String, Long> totals = gathered.result().totals;
        if (steps.isEmpty()) {
            return new Timeline(Duration.ofSeconds(1), List.of(), List.of(), false, reading);
        }
        List<String> values = totals.entrySet().stream()
                .sorted((one, other) -> {
                    int byCount = Long.compare(other.getValue(), one.getValue());
                    return byCount != 0 ? byCount : one.getKey().compareTo(other.getKey());
                })
                .map(Map.Entry::getKey)
                .limit(plan.shown())
                .toList();
        long step = plan.step() == null ? steps.roundStep(plan.most()) : steps.possible(plan.step());
        List<Step> all = marked(filled(steps.by(step, plan.zone()), step, values));
        return new Timeline(
                Duration.ofNanos(step),
                plan.split() == null ? List.of() : values,
                all,
                gathered.result().isEstimate,
                reading);
    }

    /** What one thread counts. */
    private static final class Counts {
        private final boolean isSplit;
        private final Steps<Map<String, Long>> steps = new Steps<>(LinkedHashMap::new, Timeline::sum);
        private final Map<String, Long> totals = new LinkedHashMap<>();
        private boolean isEstimate;

        /** @param step how long a step will be; null when that is not known */
        Counts(boolean isSplit, Duration step) {
            this.isSplit = isSplit;
            if (step != null && !step.isZero()) {
                steps.madeFor(step);
            }
        }

        void add(EventRow row) {
            String value = isSplit ? String.valueOf(Tally.text(row.value(0))) : "";
            String told = told(value);
            steps.at(row.time()).merge(told, row.weight(), Long::sum);
            totals.merge(told, row.weight(), Long::sum);
            isEstimate |= row.weight() != 1;
        }

        private String told(String value) {
            return totals.size() < MOST_VALUES || totals.containsKey(value) ? value : OTHERS;
        }

        Counts plus(Counts other) {
            steps.add(other.steps);
            other.totals.forEach((value, count) -> totals.merge(told(value), count, Long::sum));
            isEstimate |= other.isEstimate;
            return this;
        }
    }

    private static Map<String, Long> sum(Map<String, Long> one, Map<String, Long> other) {
        other.forEach((value, count) -> one.merge(value, count, Long::sum));
        return one;
    }

    private static List<Step> filled(TreeMap<Long, Map<String, Long>> counts, long step, List<String> values) {
        List<Step> all = new ArrayList<>();
        for (long from = counts.firstKey(); from <= counts.lastKey(); from += step) {
            Map<String, Long> here = counts.getOrDefault(from, Map.of());
            List<Long> byValue = new ArrayList<>(values.size());
            for (String value : values) {
                byValue.add(here.getOrDefault(value, 0L));
            }
            long count = 0;
            for (long each : here.values()) {
                count += each;
            }
            all.add(new Step(from, count, List.copyOf(byValue), false));
        }
        return all;
    }

    private static List<Step> marked(List<Step> steps) {
        double usual = median(steps.stream().mapToDouble(Step::count).toArray());
        double differs = median(steps.stream()
                .mapToDouble(step -> Math.abs(step.count() - usual))
                .toArray());
        // Counts of what happens by chance differ by about the root of what is usual.
        double limit = Math.max(usual + 5 * Math.max(differs, Math.sqrt(Math.max(usual, 1))), usual * LEAST_RISE);
        List<Step> marked = new ArrayList<>();
        for (int i = 0; i < steps.size(); i++) {
            Step step = steps.get(i);
            marked.add(new Step(step.from(), step.count(), step.byValue(), step.count() > limit && isTop(i, steps)));
        }
        return List.copyOf(marked);
    }

    private static boolean isTop(int index, List<Step> steps) {
        long count = steps.get(index).count();
        for (int i = Math.max(0, index - NEAR); i <= Math.min(steps.size() - 1, index + NEAR); i++) {
            if (i < index ? steps.get(i).count() >= count : steps.get(i).count() > count) {
                return false;
            }
        }
        return true;
    }

    private static double median(double[] values) {
        Arrays.sort(values);
        int middle = values.length / 2;
        return values.length % 2 == 1 ? values[middle] : (values[middle - 1] + values[middle]) / 2;
    }
}
