package dev.graphema.query;

import dev.graphema.event.Event;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/**
 * Failures by kind: those with the same fingerprint, which have the same types at the same place in the code.
 * Immutable.
 *
 * @param faults the most frequent first
 * @param reading what was read
 */
public record Faults(List<Fault> faults, Reading reading) {
    private static final int MOST_FAULTS = 10_000;

    /**
     * A kind of failure.
     *
     * @param fingerprint the common fingerprint
     * @param count the number of failures
     * @param first the time of the first one, in nanoseconds since 1970
     * @param last the time of the last one
     * @param where the instances, or else services, in which they occurred
     * @param course the numbers of failures in equal parts of the time between the first and the last of all failures
     * @param example the newest event
     */
    public record Fault(
            String fingerprint,
            long count,
            long first,
            long last,
            Set<String> where,
            List<Long> course,
            Event example) {}

    private static final class Gathered {
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

        private void newest(Event event, long order) {
            boolean isSameTime = newest != null && event.epochNanos() == newest.epochNanos();
            if (newest == null || (isSameTime ? order > newestOrder : event.epochNanos() > newest.epochNanos())) {
                newest = event;
                newestOrder = order;
            }
        }

        Gathered plus(Gathered other) {
            count += other.count;
            steps.add(other.steps);
            first = Math.min(first, other.first);
            newest(other.newest, other.newestOrder);
            where.addAll(other.where);
            return this;
        }
    }

    /** Groups the failures of the logs. @param parts the number of parts of the course */
    public static Faults of(Logs logs, int parts) throws IOException {
        Logs.Gathered<Map<String, Gathered>> gathering =
                logs.gather(LinkedHashMap::new, (faults, row, order) -> add(row.event(), order, faults), Faults::sum);
        Map<String, Gathered> all = gathering.result();
        long from = all.values().stream().mapToLong(each -> each.first).min().orElse(0);
        long to = all.values().stream()
                .mapToLong(each -> each.newest.epochNanos())
                .max()
                .orElse(0);
        List<Fault> faults = new ArrayList<>();
        all.forEach((fingerprint, gathered) -> faults.add(new Fault(
                fingerprint,
                gathered.count,
                gathered.first,
                gathered.newest.epochNanos(),
                Set.copyOf(gathered.where),
                course(gathered.steps, from, to, parts),
                gathered.newest)));
        faults.sort(Comparator.comparingLong(Fault::count).reversed().thenComparing(Fault::fingerprint));
        return new Faults(List.copyOf(faults), gathering.reading());
    }

    private static void add(Event event, long order, Map<String, Gathered> to) {
        if (event.failure() == null) {
            return;
        }
        String fingerprint = event.failure().fingerprint();
        if (to.size() < MOST_FAULTS || to.containsKey(fingerprint)) {
            to.computeIfAbsent(fingerprint, missing -> new Gathered()).add(event, order);
        }
    }

    private static Map<String, Gathered> sum(Map<String, Gathered> one, Map<String, Gathered> other) {
        other.forEach((fingerprint, gathered) -> one.merge(fingerprint, gathered, Gathered::plus));
        return one;
    }

    private static List<Long> course(Steps<long[]> steps, long from, long to, int parts) {
        long[] course = new long[parts];
        TreeMap<Long, long[]> fine = steps.all();
        fine.forEach((at, count) -> {
            double part = (double) (Math.max(at, from) - from) / Math.max(1, to - from + 1);
            course[Math.min(parts - 1, (int) (part * parts))] += count[0];
        });
        List<Long> list = new ArrayList<>();
        for (long count : course) {
            list.add(count);
        }
        return list;
    }
}
