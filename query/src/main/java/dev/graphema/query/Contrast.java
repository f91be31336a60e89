package dev.graphema.query;

import dev.graphema.condition.Literal;
import dev.graphema.event.Event;
import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;

/**
 * The differences between two sets of events: messages, failures and values of fields that are new, gone, or much more
 * or less frequent. Differences that chance can explain are excluded by the log-likelihood ratio of the two shares (T.
 * Dunning, 1993), for which a sampled event counts once. The others are ranked by that ratio times the binary logarithm
 * of the ratio of the shares, so that something rare that is new precedes something frequent that is somewhat more
 * frequent. Immutable.
 *
 * @param differences the most surprising first
 * @param one the number of events of the first set
 * @param other the number of events of the second set
 * @param tooManyValues fields with too many values to be compared
 */
public record Contrast(List<Difference> differences, long one, long other, Set<String> tooManyValues) {
    /** The most compared values of a field; one with more is probably an id. */
    private static final int MOST_VALUES = 100;

    /**
     * A quantile of the chi-squared distribution with one degree of freedom: chance exceeds it once in ten thousand
     * times. It is high because many differences are tested.
     */
    private static final double LEAST_SURPRISE = 15.14;

    private static final int LONGEST_VALUE = 200;

    /** The numbers of events behind the two sums of weights. */
    private static final int KEPT = 2;

    /** Returns the comparison with only some of its differences. */
    public Contrast only(Predicate<Difference> differences) {
        return new Contrast(this.differences.stream().filter(differences).toList(), one, other, tooManyValues);
    }

    /** The kind of a difference. */
    public enum Kind {
        NEW,
        GONE,
        MORE,
        LESS
    }

    /**
     * A difference.
     *
     * @param condition a condition for the events
     * @param one the number of events in the first set
     * @param other the number of events in the second set
     * @param also other conditions with the same numbers of events, probably the same events
     * @param surprise the rank among the differences
     */
    public record Difference(Kind kind, String condition, long one, long other, List<String> also, double surprise) {}

    private static final class Counts {
        private final Map<String, Map<String, long[]>> byName = new HashMap<>();
        private final Set<String> tooMany = new HashSet<>();
        private final long[] totals = new long[2];
        private final long[] kept = new long[2];

        void add(Event event, int side) {
            totals[side] += event.weight();
            kept[side]++;
            text("level", event.level() == null ? null : event.level().text(), side, event);
            text("service", event.service(), side, event);
            text("instance", event.instance(), side, event);
            text("logger", event.logger(), side, event);
            text("message", event.message(), side, event);
            if (event.failure() != null) {
                text("failure.type", event.failure().type(), side, event);
            }
            fields("", event.fields().toMap(), side, event);
        }

        Counts plus(Counts other) {
            for (int side = 0; side < totals.length; side++) {
                totals[side] += other.totals[side];
                kept[side] += other.kept[side];
            }
            tooMany.addAll(other.tooMany);
            other.byName.forEach((name, values) -> {
                Map<String, long[]> own = byName.computeIfAbsent(name, missing -> new HashMap<>());
                values.forEach((value, counts) -> own.merge(value, counts, Counts::sum));
                if (own.size() > MOST_VALUES) {
                    tooMany.add(name);
                }
            });
            tooMany.forEach(byName::remove);
            return this;
        }

        private static long[] sum(long[] one, long[] other) {
            for (int i = 0; i < one.length; i++) {
                one[i] += other[i];
            }
            return one;
        }

        private void fields(String prefix, Map<?, ?> fields, int side, Event event) {
            fields.forEach((name, value) -> {
                if (value instanceof Map<?, ?> group) {
                    fields(prefix + name + ".", group, side, event);
                } else if (isCompared(value)) {
                    text(prefix + name, value.toString(), side, event);
                }
            });
        }

        private static boolean isCompared(Object value) {
            return value != null
                    && !(value instanceof Duration)
                    && !(value instanceof Instant)
                    && !(value instanceof Double)
                    && !(value instanceof List<?>);
        }

        private void text(String name, String value, int side, Event event) {
            if (value == null || value.length() > LONGEST_VALUE || tooMany.contains(name)) {
                return;
            }
            Map<String, long[]> values = byName.computeIfAbsent(name, missing -> new HashMap<>());
            long[] counts = values.computeIfAbsent(value, missing -> new long[4]);
            counts[side] += event.weight();
            counts[KEPT + side]++;
            if (values.size() > MOST_VALUES) {
                tooMany.add(name);
                byName.remove(name);
            }
        }
    }

    /** Compares two sets of events; reads each once. */
    public static Contrast of(Logs one, Logs other) throws IOException {
        Counts counts = counted(one, 0).plus(counted(other, 1));
        List<Difference> differences = new ArrayList<>();
        counts.byName.forEach((name, values) ->
                values.forEach((value, count) -> difference(name, value, count, counts, differences)));
        differences.sort(
                Comparator.comparingDouble(Difference::surprise).reversed().thenComparing(Difference::condition));
        return new Contrast(grouped(differences), counts.totals[0], counts.totals[1], Set.copyOf(counts.tooMany));
    }

    private static Counts counted(Logs logs, int side) throws IOException {
        return logs.gather(Counts::new, (counts, row, order) -> counts.add(row.event(), side), Counts::plus)
                .result();
    }

    private static void difference(String name, String value, long[] count, Counts counts, List<Difference> to) {
        long[] totals = counts.totals;
        double unlikely = surprise(count[KEPT], counts.kept[0], count[KEPT + 1], counts.kept[1]);
        if (unlikely < LEAST_SURPRISE) {
            return;
        }
        double doublings =
                Math.log((count[1] + 0.5) / (totals[1] + 1) * ((totals[0] + 1) / (count[0] + 0.5))) / Math.log(2);
        Kind kind = count[0] == 0 ? Kind.NEW : count[1] == 0 ? Kind.GONE : doublings > 0 ? Kind.MORE : Kind.LESS;
        String written = Literal.written(value);
        to.add(new Difference(
                kind, name + " = " + written, count[0], count[1], List.of(), unlikely * Math.abs(doublings)));
    }

    /** Combines differences with the same counts: they are probably about the same events. */
    private static List<Difference> grouped(List<Difference> differences) {
        Map<List<Long>, List<Difference>> byCounts = new LinkedHashMap<>();
        for (Difference each : differences) {
            byCounts.computeIfAbsent(List.of(each.one(), each.other()), missing -> new ArrayList<>())
                    .add(each);
        }
        List<Difference> grouped = new ArrayList<>();
        for (List<Difference> same : byCounts.values()) {
            Difference first = same.get(0);
            List<String> also = same.stream().skip(1).map(Difference::condition).toList();
            grouped.add(new Difference(
                    first.kind(), first.condition(), first.one(), first.other(), also, first.surprise()));
        }
        return List.copyOf(grouped);
    }

    /** Returns twice the logarithm of the likelihood ratio of two shares and one. */
    static double surprise(long one, long ofOne, long other, long ofOther) {
        if (ofOne == 0 || ofOther == 0) {
            return 0;
        }
        double both = one + other;
        double all = (double) ofOne + ofOther;
        double ratio = part(one, both * ofOne / all)
                + part(other, both * ofOther / all)
                + part(ofOne - one, (all - both) * ofOne / all)
                + part(ofOther - other, (all - both) * ofOther / all);
        return 2 * ratio;
    }

    private static double part(double seen, double expected) {
        return seen == 0 ? 0 : seen * Math.log(seen / expected);
    }
}
