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
 * What is different between two sets of events: messages, failures and values of fields that are new, gone, or much more or less frequent.
 * What chance explains is left out, by the log-likelihood ratio of the two shares (T. Dunning, 1993), for which a thinned event counts as one;
 * the rest is ranked by that ratio times the number of doublings or halvings from the one share to the other, so that something rare that is
 * new comes before something frequent that is somewhat more frequent. Immutable.
 *
 * @param differences the most surprising first
 * @param one how many events there are on the one side
 * @param other how many on the other
 * @param tooManyValues fields of which not all values were compared, since there are too many
 */
public record Contrast(List<Difference> differences, long one, long other, Set<String> tooManyValues) {
    /** How many values of a field are compared; one with more is likely an id. */
    private static final int MOST_VALUES = 100;

    /** Of the chi-squared distribution with one degree of freedom: more is chance once in ten thousand times. Many things are compared. */
    private static final double LEAST_SURPRISE = 15.14;

    private static final int LONGEST_VALUE = 200;

    /** Behind the two sums of weights stand the two numbers of events. */
    private static final int KEPT = 2;

    /** The same comparison with some of its differences alone. */
    public Contrast only(Predicate<Difference> differences) {
        return new Contrast(this.differences.stream().filter(differences).toList(), one, other, tooManyValues);
    }

    /** How something differs. */
    public enum Kind {
        NEW,
        GONE,
        MORE,
        LESS
    }

    /**
     * One difference.
     *
     * @param condition for which events it holds, in the condition language
     * @param one how many there are on the one side
     * @param other how many on the other
     * @param also other conditions that hold for as many events on both sides, and so probably for the same
     * @param surprise how surprising it is, beside the others
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

    /** Compares what is in the one with what is in the other; both are read once. */
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

    /** Those with the same counts as one: they are likely about the same events. */
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

    /** Twice the logarithm of how much more likely the counts are with two shares than with one. */
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
