package dev.graphema.query.source;

import dev.graphema.event.Event;
import dev.graphema.query.contract.SourceContract;
import java.util.List;

class MemorySourceTest extends SourceContract {
    @Override
    public EventSource source(List<Event> events) {
        return new MemorySource(events);
    }
}
