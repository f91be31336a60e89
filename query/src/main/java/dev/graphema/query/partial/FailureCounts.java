package dev.graphema.query.partial;

import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.row.EventRow;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;

/** Failures by kind. */
final class FailureCounts implements Partial<FailureKinds> {
    private final int parts;
    private final Map<String, Counted> kinds = new LinkedHashMap<>();
    private boolean isEstimate;

    /** @param parts the number of parts of the course */
    FailureCounts(int parts) {
        this.parts = parts;
    }

    @Override
    public void add(EventRow row, long order) {
        Event event = row.event();
        if (event.failure() == null) {
            return;
        }
        isEstimate |= event.weight() != 1;
        String fingerprint = event.failure().fingerprint();
        if (kinds.size() < FailureKinds.MOST_KINDS || kinds.containsKey(fingerprint)) {
            kinds.computeIfAbsent(fingerprint, missing -> new Counted()).add(event, order);
        }
    }

    @Override
    public FailureCounts merge(Partial<FailureKinds> other) {
        FailureCounts more = (FailureCounts) other;
        more.kinds.forEach((fingerprint, counted) -> kinds.merge(fingerprint, counted, Counted::plus));
        isEstimate |= more.isEstimate;
        return this;
    }

    @Override
    public boolean isEstimate() {
        return isEstimate;
    }

    @Override
    public String truncated() {
        return kinds.size() < FailureKinds.MOST_KINDS
                ? null
                : "only " + FailureKinds.MOST_KINDS + " kinds of failures are counted";
    }

    @Override
    public FailureKinds answer(Supplier<Coverage> coverage) {
        long from = kinds.values().stream().mapToLong(each -> each.first).min().orElse(0);
        long to = kinds.values().stream().mapToLong(Counted::last).max().orElse(0);
        List<FailureKinds.Kind> sorted = new ArrayList<>();
        kinds.forEach((fingerprint, counted) -> sorted.add(new FailureKinds.Kind(
                fingerprint,
                counted.count,
                counted.first,
                counted.last(),
                Set.copyOf(counted.where),
                course(counted.steps, from, to),
                counted.newest)));
        sorted.sort(Comparator.comparingLong(FailureKinds.Kind::count)
                .reversed()
                .thenComparing(FailureKinds.Kind::fingerprint));
        return new FailureKinds(sorted, coverage.get());
    }

    private List<Long> course(Steps<long[]> steps, long from, long to) {
        long[] course = new long[parts];
        steps.all().forEach((at, count) -> {
            double part = (double) (Math.max(at, from) - from) / Math.max(1, to - from + 1);
            course[Math.min(parts - 1, (int) (part * parts))] += count[0];
        });
        List<Long> list = new ArrayList<>();
        for (long count : course) {
            list.add(count);
        }
        return list;
    }

    /** The failures of one kind. */
    private static final class Counted {
        private final Steps<long[]> steps = new Steps<>(() -> new long[1], (one, other) -> {
            one[0] += other[0];
            return one;
        });
        private final Set<String> where = new TreeSet<>();
        private long count;
        private long first = Long.MAX_VALUE;
        private Event newest;
        private long newestOrder;

        void add(Event event, long order) {
            count += event.weight();
            steps.at(event.epochNanos())[0] += event.weight();
            first = Math.min(first, event.epochNanos());
            newest(event, order);
            String place = event.instance() != null ? event.instance() : event.service();
            if (place != null) {
                where.add(place);
            }
        }

        long last() {
            return newest.epochNanos();
        }

        private void newest(Event event, long order) {
            boolean isSameTime = newest != null && event.epochNanos() == newest.epochNanos();
            if (newest == null || (isSameTime ? order > newestOrder : event.epochNanos() > newest.epochNanos())) {
                newest = event;
                newestOrder = order;
            }
        }

        Counted plus(Counted other) {
            count += other.count;
            steps.add(other.steps);
            first = Math.min(first, other.first);
            newest(other.newest, other.newestOrder);
            where.addAll(other.where);
            return this;
        }
    }
}
