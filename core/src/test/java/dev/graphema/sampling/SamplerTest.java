package dev.graphema.sampling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class SamplerTest {
    private final Random random = new Random(42);

    @Test
    void withoutARuleEverythingIsKept() {
        assertEquals(1, Sampler.NONE.weight(event(Level.INFO)));
    }

    @Test
    void theFirstRuleThatAppliesDecides() {
        Sampler sampler = new Sampler(
                List.of(rule("message = heartbeat and lane = A1", 1), rule("message = heartbeat", 1L << 50)),
                random::nextLong);

        assertEquals(1, sampler.weight(event(Level.INFO).fields(f -> f.put("lane", "A1"))));
        assertEquals(0, sampler.weight(event(Level.INFO).fields(f -> f.put("lane", "B1"))));
        assertEquals(1, sampler.weight(event(Level.INFO).message("other")));
    }

    @Test
    void errorsAreNeverSampled() {
        Sampler sampler = new Sampler(List.of(rule("", 1L << 50)), random::nextLong);

        assertEquals(1, sampler.weight(event(Level.ERROR)));
        assertEquals(1, sampler.weight(event(Level.FATAL)));
        assertEquals(0, sampler.weight(event(Level.WARN)));
    }

    @ParameterizedTest
    @ValueSource(longs = {2, 10, 20, 1000})
    void weightsAddUpToTheNumberOfEvents(long oneIn) {
        Sampler sampler = new Sampler(List.of(rule("", oneIn)), random::nextLong);
        int events = 200_000;
        long estimate = 0;
        for (int i = 0; i < events; i++) {
            estimate += sampler.weight(event(Level.INFO));
        }
        // Four standard deviations of the estimate: a right sampler fails here once in some ten thousand seeds.
        double tolerance = 4 * Math.sqrt((double) events * (oneIn - 1));
        assertEquals(events, estimate, tolerance);
    }

    @Test
    void allEventsOfATraceShareOneFateInEveryService() {
        Sampler one = new Sampler(List.of(rule("", 10)), random::nextLong);
        Sampler other = new Sampler(List.of(rule("message exists", 10)), new Random(7)::nextLong);
        int kept = 0;
        for (int i = 0; i < 10_000; i++) {
            TraceId trace = new TraceId(random.nextLong(), random.nextLong());
            long weight = one.weight(event(Level.INFO).trace(trace, new SpanId(1), null));
            assertEquals(weight, one.weight(event(Level.DEBUG).trace(trace, new SpanId(2), null)));
            assertEquals(weight, other.weight(event(Level.WARN).trace(trace, new SpanId(3), null)));
            kept += weight > 0 ? 1 : 0;
        }
        assertEquals(1_000, kept, 120);
    }

    @Test
    void aTraceThatSurvivesTheStricterRuleSurvivesTheMilder() {
        Sampler mild = new Sampler(List.of(rule("", 10)), random::nextLong);
        Sampler strict = new Sampler(List.of(rule("", 137)), random::nextLong);
        int survivors = 0;
        for (int i = 0; i < 50_000; i++) {
            TraceId trace = new TraceId(1, random.nextLong());
            if (strict.weight(event(Level.INFO).trace(trace, null, null)) > 0) {
                survivors++;
                assertTrue(mild.weight(event(Level.INFO).trace(trace, null, null)) > 0);
            }
        }
        assertTrue(survivors > 200);
    }

    @Test
    void aShareThatCannotBeIsRefused() {
        assertEquals(
                "keep: 1 in 0 (expected: 1 in 1 to 1 in 36028797018963968)",
                assertThrows(IllegalArgumentException.class, () -> rule("", 0)).getMessage());
    }

    private static SamplingRule rule(String when, long oneIn) {
        return new SamplingRule(Condition.parse(when), oneIn, true);
    }

    private static Draft event(Level level) {
        return new Draft().level(level).logger("skerry.gate").message("heartbeat");
    }
}
