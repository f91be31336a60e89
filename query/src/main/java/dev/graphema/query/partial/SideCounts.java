package dev.graphema.query.partial;

import dev.graphema.condition.Literal;
import dev.graphema.event.Event;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.answer.Differences.Difference;
import dev.graphema.query.part.TextShape;
import dev.graphema.query.row.EventRow;
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
import java.util.function.Supplier;

/** The counts of values on two sides, which are compared in the answer. Each part fills one side. */
public final class SideCounts extends Transferable implements Partial<Differences> {
    /** The most compared values of a field; one with more is probably an id. */
    private static final int MOST_VALUES = 100;

    /**
     * A quantile of the chi-squared distribution with one degree of freedom: chance exceeds it once in ten thousand
     * times. It is high because many differences are tested.
     */
    private static final double LEAST_SURPRISE = 15.14;

    private static final int LONGEST_VALUE = 200;
    private static final int MOST_SHAPES = 2_000;
    private static final int OTHERS = 0;
    private static final int EVENTS = 1;

    /** After the two sums of weights, the two numbers of counted events. */
    private static final int KEPT = 2;

    private final int side;
    private final Map<String, Map<String, long[]>> byName = new HashMap<>();
    private final Set<String> tooMany = new HashSet<>();

    /** The shapes of recent messages. */
    private final Map<String, String> shapes = new HashMap<>();

    private final long[] totals = new long[2];
    private final long[] kept = new long[2];

    /** @param isOther whether it counts the events that are compared with */
    SideCounts(boolean isOther) {
        side = isOther ? OTHERS : EVENTS;
    }

    @Override
    public void add(EventRow row, long order) {
        Event event = row.event();
        long weight = event.weight();
        addEvents(weight, 1);
        addValue("level", event.level() == null ? null : event.level().text(), weight, 1);
        addValue("service", event.service(), weight, 1);
        addValue("instance", event.instance(), weight, 1);
        addValue("logger", event.logger(), weight, 1);
        addMessage(event.message(), weight, 1);
        if (event.failure() != null) {
            addValue("failure.type", event.failure().type(), weight, 1);
        }
        fields("", event.fields().toMap(), weight);
    }

    /** Counts events whose values are added as well, for sources that count on their own. */
    public void addEvents(long weight, long events) {
        totals[side] += weight;
        kept[side] += events;
    }

    /** Returns whether a name has few values so far, so that they are compared. */
    public boolean compares(String name) {
        return !tooMany.contains(name);
    }

    /**
     * Adds a value of events, for sources that count on their own.
     *
     * @param value null for none
     * @param weight the sum of the weights of the events
     */
    public void addValue(String name, Object value, long weight, long events) {
        if (!isCompared(value)) {
            return;
        }
        String text = value.toString();
        if (text.length() > LONGEST_VALUE || tooMany.contains(name)) {
            return;
        }
        Map<String, long[]> values = byName.computeIfAbsent(name, missing -> new HashMap<>());
        long[] counts = values.computeIfAbsent(text, missing -> new long[4]);
        counts[side] += weight;
        counts[KEPT + side] += events;
        if (values.size() > MOST_VALUES) {
            tooMany.add(name);
            byName.remove(name);
        }
    }

    /** As above, for a message. */
    public void addMessage(String message, long weight, long events) {
        addValue("message", message, weight, events);
        addValue("message.shape", shape(message), weight, events);
    }

    /** Returns the shape of a message; null if it is the message itself, which is compared anyway. */
    private String shape(String message) {
        if (message == null || message.length() > LONGEST_VALUE) {
            return null;
        }
        if (shapes.size() >= MOST_SHAPES) {
            shapes.clear();
        }
        String shape = shapes.computeIfAbsent(message, TextShape::of);
        return shape.equals(message) ? null : shape;
    }

    private void fields(String prefix, Map<?, ?> fields, long weight) {
        fields.forEach((name, value) -> {
            if (value instanceof Map<?, ?> group) {
                fields(prefix + name + ".", group, weight);
            } else {
                addValue(prefix + name, value, weight, 1);
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

    @Override
    public SideCounts merge(Partial<Differences> other) {
        SideCounts more = (SideCounts) other;
        for (int i = 0; i < totals.length; i++) {
            totals[i] += more.totals[i];
            kept[i] += more.kept[i];
        }
        tooMany.addAll(more.tooMany);
        more.byName.forEach((name, values) -> {
            Map<String, long[]> own = byName.computeIfAbsent(name, missing -> new HashMap<>());
            values.forEach((value, counts) -> own.merge(value, counts, SideCounts::sum));
            if (own.size() > MOST_VALUES) {
                tooMany.add(name);
            }
        });
        tooMany.forEach(byName::remove);
        return this;
    }

    /** Returns the name of the side that is counted. */
    String sideName() {
        return side == OTHERS ? "others" : "events";
    }

    @Override
    Ask<?> ask() {
        throw new UnsupportedOperationException("one side of a comparison is no question");
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.numbers(totals).numbers(kept).texts(tooMany).begin();
        for (Map.Entry<String, Map<String, long[]>> name : byName.entrySet()) {
            to.begin().text(name.getKey()).begin();
            for (Map.Entry<String, long[]> value : name.getValue().entrySet()) {
                to.begin().text(value.getKey()).numbers(value.getValue()).end();
            }
            to.end().end();
        }
        to.end();
    }

    @Override
    void merge(StateReader from) throws IOException {
        SideCounts other = new SideCounts(side == OTHERS);
        read(from, other.totals);
        read(from, other.kept);
        other.tooMany.addAll(from.texts());
        from.begin();
        while (from.next()) {
            Map<String, long[]> values = other.byName.computeIfAbsent(from.text(), missing -> new HashMap<>());
            from.begin();
            while (from.next()) {
                long[] counts = values.computeIfAbsent(from.text(), missing -> new long[4]);
                read(from, counts);
                from.end();
            }
            from.end();
        }
        merge(other);
    }

    private static void read(StateReader from, long[] to) throws IOException {
        from.begin();
        for (int i = 0; i < to.length; i++) {
            to[i] = from.number();
        }
        from.end();
    }

    private static long[] sum(long[] one, long[] other) {
        for (int i = 0; i < one.length; i++) {
            one[i] += other[i];
        }
        return one;
    }

    @Override
    public boolean isEstimate() {
        return totals[OTHERS] != kept[OTHERS] || totals[EVENTS] != kept[EVENTS];
    }

    @Override
    public Differences answer(Supplier<Coverage> coverage) {
        List<Difference> differences = new ArrayList<>();
        byName.forEach((name, values) -> values.forEach((value, count) -> difference(name, value, count, differences)));
        differences.sort(
                Comparator.comparingDouble(Difference::surprise).reversed().thenComparing(Difference::condition));
        return new Differences(grouped(differences), totals[OTHERS], totals[EVENTS], tooMany, coverage.get());
    }

    private void difference(String name, String value, long[] count, List<Difference> to) {
        double unlikely = surprise(count[KEPT + OTHERS], kept[OTHERS], count[KEPT + EVENTS], kept[EVENTS]);
        if (unlikely < LEAST_SURPRISE) {
            return;
        }
        double ratio = (count[EVENTS] + 0.5) / (totals[EVENTS] + 1) * ((totals[OTHERS] + 1) / (count[OTHERS] + 0.5));
        double doublings = Math.log(ratio) / Math.log(2);
        Differences.Kind kind = count[OTHERS] == 0
                ? Differences.Kind.NEW
                : count[EVENTS] == 0
                        ? Differences.Kind.GONE
                        : doublings > 0 ? Differences.Kind.MORE : Differences.Kind.LESS;
        String condition = name + " = " + Literal.written(value);
        to.add(new Difference(
                kind, condition, count[OTHERS], count[EVENTS], List.of(), unlikely * Math.abs(doublings)));
    }

    /** Combines differences with the same counts: they are probably about the same events. */
    private static List<Difference> grouped(List<Difference> differences) {
        Map<List<Long>, List<Difference>> byCounts = new LinkedHashMap<>();
        for (Difference each : differences) {
            byCounts.computeIfAbsent(List.of(each.others(), each.events()), missing -> new ArrayList<>())
                    .add(each);
        }
        List<Difference> grouped = new ArrayList<>();
        for (List<Difference> same : byCounts.values()) {
            Difference first = same.get(0);
            List<String> also = same.stream().skip(1).map(Difference::condition).toList();
            grouped.add(new Difference(
                    first.kind(), first.condition(), first.others(), first.events(), also, first.surprise()));
        }
        return grouped;
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
