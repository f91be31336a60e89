package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.contract.SourceContract;
import java.util.Iterator;
import java.util.List;
import java.util.Set;

/** The smallest source: it can only return its events, once, in any order. */
class ToySourceTest extends SourceContract {
    @Override
    public EventSource source(List<Event> events) {
        return new ToySource(events.iterator());
    }

    private record ToySource(Iterator<Event> events) implements EventSource {
        @Override
        public Set<Capability> capabilities() {
            return Set.of();
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) {
            Part all = own -> new EventRows(events, 0, scan.projection(), own);
            return Plan.scanning(scan, List.of(all));
        }
    }
}
