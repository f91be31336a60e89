package dev.graphema.query.partial;

import dev.graphema.query.Ask;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.Timeline;
import dev.graphema.query.row.EventRow;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.ObjLongConsumer;
import java.util.function.Supplier;

/** Counts by time. */
public final class StepCounts extends Transferable implements Partial<Timeline> {
    private static final int MOST_VALUES = 1_000;

    private final Ask.TimeSteps ask;
    private final Steps<Sums> steps = new Steps<>(Sums::new, Sums::plus);
    private final Map<String, long[]> totals = new LinkedHashMap<>();
    private boolean isEstimate;

    StepCounts(Ask.TimeSteps ask) {
        this.ask = ask;
        if (ask.step() != null) {
            steps.madeFor(ask.step());
        }
    }

    @Override
    public void add(EventRow row, long order) {
        isEstimate |= row.weight() != 1;
        add(row.time(), ask.by() == null ? null : row.value(0), row.weight());
    }

    /**
     * Adds events that were not sampled, for sources that count on their own.
     *
     * @param epochNanos the time of one of them; the others are at most a minute later
     * @param value by which they are counted; null for a missing value
     */
    public void add(long epochNanos, Object value, long events) {
        Sums step = steps.at(epochNanos);
        step.count += events;
        if (ask.by() != null) {
            String text = distinguished(String.valueOf(CountTable.text(value)));
            step.add(text, events);
            Sums.add(text, events, totals);
        }
    }

    /** Returns what is asked. */
    public Ask.TimeSteps asked() {
        return ask;
    }

    /** Returns the value, or that of all values beyond the limit. */
    private String distinguished(String value) {
        return totals.size() < MOST_VALUES || totals.containsKey(value) ? value : CountTable.OTHERS;
    }

    @Override
    public StepCounts merge(Partial<Timeline> other) {
        StepCounts more = (StepCounts) other;
        steps.add(more.steps);
        more.totals.forEach((value, count) -> Sums.add(distinguished(value), count[0], totals));
        isEstimate |= more.isEstimate;
        return this;
    }

    @Override
    Ask<?> ask() {
        return ask;
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.flag(isEstimate);
        Sums.write(totals, to);
        steps.write(to, Sums::write);
    }

    @Override
    void merge(StateReader from) throws IOException {
        isEstimate |= from.flag();
        Sums.read(from, (value, count) -> Sums.add(distinguished(value), count, totals));
        steps.add(from, Sums::read);
    }

    @Override
    public boolean isEstimate() {
        return isEstimate;
    }

    @Override
    public Timeline answer(Supplier<Coverage> coverage) {
        if (steps.isEmpty()) {
            Duration step = ask.step() == null ? Duration.ofSeconds(1) : ask.step();
            return new Timeline(step, List.of(), List.of(), coverage.get());
        }
        List<String> values = totals.entrySet().stream()
                .sorted((one, other) -> {
                    int byCount = Long.compare(other.getValue()[0], one.getValue()[0]);
                    return byCount != 0 ? byCount : one.getKey().compareTo(other.getKey());
                })
                .map(Map.Entry::getKey)
                .limit(ask.shown())
                .toList();
        long step = ask.step() == null ? steps.roundStep(ask.most()) : steps.possible(ask.step());
        ZoneId zone = ask.zone() == null ? ZoneId.systemDefault() : ask.zone();
        return new Timeline(
                Duration.ofNanos(step), values, filled(steps.by(step, zone), step, zone, values), coverage.get());
    }

    /** Returns all steps, including empty ones. */
    private List<Timeline.Step> filled(TreeMap<Long, Sums> counted, long step, ZoneId zone, List<String> values) {
        List<Long> begins = Steps.begins(counted, step, zone);
        Sums[] all = new Sums[begins.size()];
        long[] counts = new long[all.length];
        for (int i = 0; i < all.length; i++) {
            all[i] = counted.getOrDefault(begins.get(i), Sums.NONE);
            counts[i] = all[i].count;
        }
        Spikes spikes = new Spikes(counts);
        Timeline.Step[] filled = new Timeline.Step[all.length];
        for (int i = 0; i < all.length; i++) {
            filled[i] = new Timeline.Step(
                    begins.get(i), counts[i], all[i].byValue(values, totals.keySet()), spikes.isSpike(i));
        }
        return List.of(filled);
    }

    /** The counts of a step; by value only if steps are divided. */
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

        /** @param distinguished the values that are not counted as others */
        List<Long> byValue(List<String> values, Set<String> distinguished) {
            if (values.isEmpty()) {
                return List.of();
            }
            Long[] counts = new Long[values.size()];
            for (int i = 0; i < counts.length; i++) {
                counts[i] = values.get(i).equals(CountTable.OTHERS) ? others(distinguished) : of(values.get(i));
            }
            return List.of(counts);
        }

        private long of(String value) {
            long[] sum = byValue.get(value);
            return sum == null ? 0 : sum[0];
        }

        /** Values of a merged part may be beyond the limit of the whole. */
        private long others(Set<String> distinguished) {
            long others = of(CountTable.OTHERS);
            for (Map.Entry<String, long[]> each : byValue.entrySet()) {
                others += distinguished.contains(each.getKey()) ? 0 : each.getValue()[0];
            }
            return others;
        }

        void write(StateWriter to) throws IOException {
            to.number(count);
            write(byValue, to);
        }

        static void write(Map<String, long[]> counts, StateWriter to) throws IOException {
            to.begin();
            for (Map.Entry<String, long[]> each : counts.entrySet()) {
                to.begin().text(each.getKey()).number(each.getValue()[0]).end();
            }
            to.end();
        }

        static Sums read(StateReader from) throws IOException {
            Sums sums = new Sums();
            sums.count = from.number();
            read(from, sums::add);
            return sums;
        }

        static void read(StateReader from, ObjLongConsumer<String> taker) throws IOException {
            from.begin();
            while (from.next()) {
                taker.accept(from.text(), from.number());
                from.end();
            }
        }

        Sums plus(Sums other) {
            count += other.count;
            if (!other.byValue.isEmpty()) {
                other.byValue.forEach((value, sum) -> add(value, sum[0]));
            }
            return this;
        }
    }
}
