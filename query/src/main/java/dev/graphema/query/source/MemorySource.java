package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;

/** Events in memory. Immutable. */
public final class MemorySource implements EventSource {
    private static final int PART = 100_000;

    private final List<Event> events;

    /** @param events the events in any order */
    public MemorySource(List<Event> events) {
        this.events = events.stream()
                .sorted(Comparator.comparingLong(Event::epochNanos))
                .toList();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) {
        int parts = scan.isInOrder() ? 1 : Math.max(1, (events.size() + PART - 1) / PART);
        return Plan.scanning(
                scan,
                IntStream.range(0, parts)
                        .mapToObj(i -> new Range(
                                parts == 1 ? 0 : i * PART,
                                parts == 1 ? events.size() : Math.min(events.size(), (i + 1) * PART),
                                scan.projection()))
                        .toList());
    }

    /** A range of the events. */
    private final class Range implements Part {
        private final int from;
        private final int to;
        private final Projection projection;

        Range(int from, int to, Projection projection) {
            this.from = from;
            this.to = to;
            this.projection = projection;
        }

        @Override
        public Rows open(CoverageBuilder coverage) {
            return new EventRows(events.subList(from, to).iterator(), from, projection, coverage);
        }
    }
}
