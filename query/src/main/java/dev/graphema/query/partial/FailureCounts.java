package dev.graphema.query.partial;

import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.query.Ask;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FailureKinds;
import dev.graphema.query.row.EventRow;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.stream.Stream;

/** Failures by kind. */
final class FailureCounts extends Transferable implements Partial<FailureKinds> {
    static final Projection READ = Projection.of(Stream.of("failure.fingerprint", "instance", "service")
            .map(Name::of)
            .toList());

    /** In the place of the failure of a line that is damaged within it. */
    private static final Failure UNREADABLE =
            new Failure("(the line is damaged)", null, List.of(), 0, 0, null, List.of());

    private final int parts;
    private final Map<String, Counted> kinds = new LinkedHashMap<>();
    private boolean isEstimate;
    private long shift;

    /** @param parts the number of parts of the course */
    FailureCounts(int parts) {
        this.parts = parts;
    }

    @Override
    public void shift(long by) {
        shift += by;
    }

    @Override
    public void add(EventRow row, long order) {
        String fingerprint = (String) row.value(0);
        if (fingerprint == null) {
            return;
        }
        isEstimate |= row.weight() != 1;
        if (kinds.size() < FailureKinds.MOST_KINDS || kinds.containsKey(fingerprint)) {
            kinds.computeIfAbsent(fingerprint, missing -> new Counted()).add(row, shift + order);
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
    Ask<?> ask() {
        return new Ask.Failures(parts);
    }

    @Override
    void write(StateWriter to) throws IOException {
        to.flag(isEstimate).begin();
        for (Map.Entry<String, Counted> kind : kinds.entrySet()) {
            to.begin().text(kind.getKey());
            kind.getValue().write(to);
            to.end();
        }
        to.end();
    }

    @Override
    void merge(StateReader from) throws IOException {
        isEstimate |= from.flag();
        from.begin();
        while (from.next()) {
            kinds.merge(from.text(), Counted.read(from, shift), Counted::plus);
            from.end();
        }
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
                counted.example())));
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
        private PlacedEvent newest;

        void add(EventRow row, long order) {
            count += row.weight();
            steps.at(row.time())[0] += row.weight();
            first = Math.min(first, row.time());
            if (newest == null || isNewer(row.time(), order)) {
                newest = new PlacedEvent(row.time(), order, row.keep());
            }
            Object place = row.value(1) != null ? row.value(1) : row.value(2);
            if (place != null) {
                where.add(place.toString());
            }
        }

        void write(StateWriter to) throws IOException {
            to.number(count).number(first).texts(where);
            steps.write(to, (sum, state) -> state.number(sum[0]));
            newest.write(to);
        }

        static Counted read(StateReader from, long shift) throws IOException {
            Counted read = new Counted();
            read.count = from.number();
            read.first = from.number();
            read.where.addAll(from.texts());
            read.steps.add(from, state -> new long[] {state.number()});
            read.newest = PlacedEvent.read(from).shifted(shift);
            return read;
        }

        long last() {
            return newest.time();
        }

        Event example() {
            Event example = newest.event().get();
            return example != null && example.failure() != null
                    ? example
                    : Draft.ofWritten().time(newest.time()).failure(UNREADABLE).finish();
        }

        private boolean isNewer(long time, long order) {
            return time == newest.time() ? order > newest.order() : time > newest.time();
        }

        Counted plus(Counted other) {
            count += other.count;
            steps.add(other.steps);
            first = Math.min(first, other.first);
            newest = isNewer(other.newest.time(), other.newest.order()) ? other.newest : newest;
            where.addAll(other.where);
            return this;
        }
    }
}
