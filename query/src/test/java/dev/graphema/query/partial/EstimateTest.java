package dev.graphema.query.partial;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.query.answer.Estimate;
import dev.graphema.sampling.Keep;
import dev.graphema.sampling.Sampler;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.trace.TraceId;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class EstimateTest {
    private static final int RUNS = 100;

    @ParameterizedTest
    @CsvSource({
        "1 in 10, false, 40",
        "1 in 10, false, 3000",
        "30%, false, 500",
        "1 in 10, true, 400",
        "1 in 10, true, 6000",
        "5%, true, 20000"
    })
    void theTrueNumberLiesInTheInterval(String keep, boolean together, int events) {
        int within = 0;
        for (int seed = 0; seed < RUNS; seed++) {
            Random random = new Random(seed);
            Sampler sampler = new Sampler(
                    java.util.List.of(new SamplingRule(Condition.EVERYTHING, Keep.parse(keep), together, false)),
                    random::nextLong);
            WeightedCount count = new WeightedCount(new WeightedCount.Shared());
            TraceId trace = null;
            for (int i = 0; i < events; i++) {
                // Traces of one to twenty events.
                trace = trace == null || random.nextInt(10) == 0
                        ? new TraceId(random.nextLong(), random.nextLong())
                        : trace;
                Draft draft =
                        new Draft().level(Level.INFO).logger("a").message("m").trace(trace, null, null);
                long weight = sampler.weight(draft);
                if (weight > 0) {
                    count.add(weight, trace);
                }
            }
            Estimate estimate = count.estimate();
            within += estimate.low() <= events && events <= estimate.high() ? 1 : 0;
        }
        assertTrue(within >= 95, within + " of " + RUNS + " runs");
    }

    @Test
    void moreTracesThanAreRememberedMakeAlmostTheSameInterval() {
        Random random = new Random(1);
        WeightedCount count = new WeightedCount(new WeightedCount.Shared());
        int traces = 1_000_000;
        for (int i = 0; i < traces; i++) {
            TraceId trace = new TraceId(random.nextLong(), random.nextLong());
            count.add(10, trace);
            count.add(10, trace);
        }
        Estimate all = count.estimate();
        Estimate exact = Estimate.of(2L * traces, 20L * traces, (double) traces * 20 * 18, traces);
        assertEquals(exact.count(), all.count());
        assertEquals(exact.high() - exact.low(), all.high() - all.low(), 0.02 * (exact.high() - exact.low()));
    }

    @Test
    void countsWithoutSamplingAreExact() {
        WeightedCount count = new WeightedCount(new WeightedCount.Shared());
        count.add(1, null);
        assertEquals(new Estimate(1, 1, 1, 1), count.estimate());
    }
}
