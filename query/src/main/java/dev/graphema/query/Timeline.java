package dev.graphema.query;

import dev.graphema.condition.Name;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;

/**
 * Counts of events over time, weighted: if events were sampled, they are estimates. Immutable.
 *
 * @param step the length of a step
 * @param values the values of the field by which it is split, the most frequent first; empty if it is not
 * @param steps all steps from the first to the last with an event, including empty ones
 * @param isEstimate whether events were sampled
 * @param reading what was read
 */
public record Timeline(Duration step, List<String> values, List<Step> steps, boolean isEstimate, Reading reading) {
    /** The name of the values beyond the most frequent ones. */
    public static final String OTHERS = Tally.OTHERS;

    private static final int MOST_VALUES = 1_000;

    /** The least multiple of the usual count of a spike. */
    private static final double LEAST_RISE = 1.5;

    /** A spike is the highest of this number of steps before and after it. */
    private static final int NEAR = 2;

    /**
     * A step.
     *
     * @param from its begin, in nanoseconds since 1970
     * @param count the number of events
     * @param byValue the numbers by value, in the order of {@link Timeline#values}
     * @param isSpike whether the count is more than the median plus five times the usual deviation, and the highest of
     *     the two steps before and after it
     */
    public record Step(long from, long count, List<Long> byValue, boolean isSpike) {}

    /**
     * The options of a timeline.
     *
     * @param most the most steps, if the step is not given
     * @param step the length of a step; null for an automatic one
     * @param zone returns the time zone of days; called once
     * @param split the field or attribute by which it is split; null for none
     * @param shown the number of distinguished values
     */
    public record Plan(int most, Duration step, Supplier<ZoneId> zone, Name split, int shown) {
        public Plan(int most, Duration step, ZoneId zone, Name split, int shown) {
            this(most, step, () -> zone, split, shown);
        }
    }

    /** Counts the events of the logs. */
    public static Timeline of(Logs logs, Plan plan) throws IOException {
        Logs.Gathered<Counts> gathered = logs.only(plan.split() == null ? List.of() : List.of(plan.split()))
                .gather(
                        () -> new Counts(plan.split() != null, plan.step()),
                        (counts, row, order) -> counts.add(row),
                        Counts::plus);
        Reading reading = gathered.reading();
        Steps<Sums> steps = gathered.result().steps;
        if (steps.isEmpty()) {
            return new Timeline(Duration.ofSeconds(1), List.of(), List.of(), false, reading);
        }
        List<String> values = plan.split() == null
                ? List.of()
                : gathered.result().totals.entrySet().stream()
                        .sorted((one, other) -> {
                            int byCount = Long.compare(other.getValue()[0], one.getValue()[0]);
                            return byCount != 0 ? byCount : one.getKey().compareTo(other.getKey());
                        })
                        .map(Map.Entry::getKey)
                        .limit(plan.shown())
                        .toList();
        long step = plan.step() == null ? steps.roundStep(plan.most()) : steps.possible(plan.step());
        ZoneId zone = plan.zone().get();
        List<Step> all = filled(steps.by(step, zone), step, zone, values);
        return new Timeline(Duration.ofNanos(step), values, all, gathered.result().isEstimate, reading);
    }

    /** The counts of one thread. */
    private static final class Counts {
        private final boolean isSplit;
        private final Steps<Sums> steps = new Steps<>(Sums::new, Sums::plus);
        private final Map<String, long[]> totals = new LinkedHashMap<>();
        private boolean isEstimate;

        /** @param step the length of a step; null if unknown */
        Counts(boolean isSplit, Duration step) {
            this.isSplit = isSplit;
            if (step != null && !step.isZero()) {
                steps.madeFor(step);
            }
        }

        void add(EventRow row) {
            Sums step = steps.at(row.time());
            step.count += row.weight();
            isEstimate |= row.weight() != 1;
            if (isSplit) {
                String told = told(String.valueOf(Tally.text(row.value(0))));
                step.add(told, row.weight());
                Sums.add(told, row.weight(), totals);
            }
        }

        private String told(String value) {
            return totals.size() < MOST_VALUES || totals.containsKey(value) ? value : OTHERS;
        }

        Counts plus(Counts other) {
            steps.add(other.steps);
            other.totals.forEach((value, count) -> Sums.add(told(value), count[0], totals));
            isEstimate |= other.isEstimate;
            return this;
        }
    }

    /** The counts of a step; by value only if it is split. */
    private static final class Sums {
        private static final Sums NONE = new Sums();

        private long count;
        private Map<String, long[]> byValue = Map.of();

        void add(String value, long weight) {
            if (byValue.isEmpty()) {
                byValue = new HashMap<>();
            }
            add(value, weight, byValue);
        }

        static void add(String value, long weight, Map<String, long[]> to) {
            to.computeIfAbsent(value, missing -> new long[1])[0] += weight;
        }

        long of(String value) {
            long[] sum = byValue.get(value);
            return sum == null ? 0 : sum[0];
        }

        Sums plus(Sums other) {
            count += other.count;
            if (!other.byValue.isEmpty()) {
                other.byValue.forEach((value, sum) -> add(value, sum[0]));
            }
            return this;
        }
    }

    /** Returns all steps, including empty ones. */
    private static List<Step> filled(TreeMap<Long, Sums> counted, long step, ZoneId zone, List<String> values) {
        List<Long> begins = new ArrayList<>();
        for (long begin = counted.firstKey(); begin <= counted.lastKey(); begin = Steps.next(begin, step, zone)) {
            begins.add(begin);
        }
        Sums[] all = new Sums[begins.size()];
        long[] counts = new long[all.length];
        for (int i = 0; i < all.length; i++) {
            all[i] = counted.getOrDefault(begins.get(i), Sums.NONE);
            counts[i] = all[i].count;
        }
        double limit = usualLimit(counts);
        Step[] steps = new Step[all.length];
        for (int i = 0; i < all.length; i++) {
            boolean isSpike = counts[i] > limit && isTop(i, counts);
            steps[i] = new Step(begins.get(i), counts[i], byValue(all[i], values), isSpike);
        }
        return List.of(steps);
    }

    private static List<Long> byValue(Sums sums, List<String> values) {
        if (values.isEmpty()) {
            return List.of();
        }
        Long[] byValue = new Long[values.size()];
        for (int i = 0; i < byValue.length; i++) {
            byValue[i] = sums.of(values.get(i));
        }
        return List.of(byValue);
    }

    /** Returns the count above which a step is a spike. */
    private static double usualLimit(long[] counts) {
        double usual = median(counts);
        long[] differences = new long[counts.length];
        for (int i = 0; i < counts.length; i++) {
            // A median of whole numbers may lie between two of them.
            differences[i] = Math.abs(2 * counts[i] - (long) (2 * usual));
        }
        double differs = median(differences) / 2;
        // Counts of what happens by chance differ by about the root of what is usual.
        return Math.max(usual + 5 * Math.max(differs, Math.sqrt(Math.max(usual, 1))), usual * LEAST_RISE);
    }

    private static boolean isTop(int index, long[] counts) {
        long count = counts[index];
        for (int i = Math.max(0, index - NEAR); i <= Math.min(counts.length - 1, index + NEAR); i++) {
            if (i < index ? counts[i] >= count : counts[i] > count) {
                return false;
            }
        }
        return true;
    }

    private static double median(long[] values) {
        long[] sorted = values.clone();
        Arrays.sort(sorted);
        int middle = sorted.length / 2;
        return sorted.length % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2.0;
    }
}
