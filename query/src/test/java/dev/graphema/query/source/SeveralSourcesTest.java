package dev.graphema.query.source;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.contract.Samples;
import dev.graphema.query.contract.SourceContract;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

class SeveralSourcesTest extends SourceContract {
    @Override
    public EventSource source(List<Event> events) {
        int half = events.size() / 2;
        return new SeveralSources(List.of(
                new MemorySource(events.subList(0, half)),
                new MemorySource(events.subList(half, events.size())),
                new MemorySource(List.of())));
    }

    @Test
    void aSourceThatCannotBeReadIsStated() throws IOException {
        EventSource broken = new EventSource() {
            @Override
            public String name() {
                return "store";
            }

            @Override
            public Set<Capability> capabilities() {
                return Set.of();
            }

            @Override
            public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
                throw new IOException("connection refused");
            }
        };
        EventSource memory = new MemorySource(List.of(Samples.event(1, "a").finish()));
        FoundEvents found = QueryExecutor.answer(Question.all().newest(5), new SeveralSources(List.of(broken, memory)));
        assertEquals(1, found.matching());
        assertEquals(
                "[store: cannot be read: connection refused]",
                found.coverage().failures().toString());
        assertThrows(UnsupportedOperationException.class, () -> memory.follow(Condition.EVERYTHING));
    }
}
