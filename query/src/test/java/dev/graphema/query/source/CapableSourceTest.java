package dev.graphema.query.source;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.condition.Condition;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.partial.Partial;
import dev.graphema.query.partial.ValueCounts;
import dev.graphema.query.row.Projection;
import java.io.IOException;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Sources that do more than return rows. */
class CapableSourceTest {
    @Test
    void aSourceCanCountOnItsOwn() throws IOException {
        CountTable counts = QueryExecutor.answer(Question.all().counts("service"), new CountingSource());
        assertEquals(List.of("deck"), counts.rows().get(0).values());
        assertEquals(3, counts.rows().get(0).events().count());
        assertEquals(5, counts.all().count());
    }

    @Test
    void aPlanStatesWhoDecides() {
        Scan scan = new Scan(Condition.parse("level >= warn"), Window.ALWAYS, Projection.ALL, false);
        assertEquals(
                "0 parts; the source decides: level >= warn; the executor decides: nothing",
                Plan.deciding(scan, List.of()).explain());
        assertEquals(
                "0 parts; the source decides: nothing; the executor decides: level >= warn",
                Plan.scanning(scan, List.of()).explain());
    }

    /** Has only numbers of events, in two parts. */
    private static final class CountingSource implements EventSource {
        @Override
        public Set<Capability> capabilities() {
            return Set.of();
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) {
            return Plan.deciding(scan, List.of(new Counted("deck", 3), new Counted("gate", 2)));
        }
    }

    private record Counted(String service, long count) implements Part {
        @Override
        public Rows open(CoverageBuilder coverage) {
            throw new AssertionError("rows are not needed");
        }

        @Override
        public <A extends Answer> boolean addTo(Partial<A> partial, CoverageBuilder coverage) {
            ((ValueCounts) partial).cell(List.of(service)).add(count);
            return true;
        }
    }
}
