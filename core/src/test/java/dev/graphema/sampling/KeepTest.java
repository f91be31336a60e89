package dev.graphema.sampling;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Level;
import dev.graphema.trace.TraceId;
import java.util.List;
import java.util.Random;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class KeepTest {
    private final AtomicLong now = new AtomicLong(1_000_000);

    @ParameterizedTest
    @ValueSource(strings = {"1 in 20", "5%", "0.25%", "100/s", "100/s burst 500", "first 10 in 60000ms then 1 in 100"})
    void whatIsReadIsWrittenTheSame(String text) {
        assertEquals(text, Keep.parse(text).text());
        assertEquals(Keep.parse(text), Keep.parse("  " + text + " "));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "20",
                "1 in 0",
                "0%",
                "101%",
                "0/s",
                "5/s burst 0",
                "first 0 in 1m then 1 in 2",
                "first 2 in 1x then 1 in 2"
            })
    void whatIsNoShareIsRefused(String text) {
        assertThrows(IllegalArgumentException.class, () -> Keep.parse(text));
    }

    @Test
    void onlySharesCanBeSharedByATrace() {
        assertThrows(
                IllegalArgumentException.class,
                () -> new SamplingRule(Condition.EVERYTHING, Keep.parse("10/s"), true, false));
    }

    @ParameterizedTest
    @ValueSource(strings = {"1 in 10", "5%", "30%", "33.3%", "75%"})
    void weightsAddUpToWhatThereWas(String keep) {
        Sampler sampler = sampler(new Random(7), keep, false);
        long estimate = 0;
        int all = 200_000;
        for (int i = 0; i < all; i++) {
            estimate += sampler.weight(event("a"));
        }
        assertTrue(Math.abs(estimate - all) < all * 0.03, keep + " estimates " + estimate);
    }

    @Test
    void twoServicesKeepTheSameTracesAndALowerShareIsPartOfAHigher() {
        Sampler one = sampler(new Random(1), "1 in 10", true);
        Sampler other = sampler(new Random(2), "10%", true);
        Sampler fewer = sampler(new Random(3), "1%", true);
        Random traces = new Random(20260515);
        int kept = 0;
        for (int i = 0; i < 50_000; i++) {
            TraceId trace = new TraceId(traces.nextLong(), traces.nextLong());
            boolean isKept = one.weight(event("a").trace(trace, null, null)) > 0;
            assertEquals(isKept, other.weight(event("b").trace(trace, null, null)) > 0, trace.toString());
            boolean isOfFewer = fewer.weight(event("c").trace(trace, null, null)) > 0;
            assertTrue(isKept || !isOfFewer, trace.toString());
            kept += isKept ? 1 : 0;
        }
        assertTrue(kept > 4_500 && kept < 5_500, "kept " + kept);
    }

    @Test
    void aRateLetsABurstThroughAndThenSoManyASecond() {
        Sampler sampler = sampler(new Random(1), "10/s burst 5", false);
        long kept = 0;
        for (int i = 0; i < 100; i++) {
            kept += sampler.weight(event("a")) > 0 ? 1 : 0;
        }
        assertEquals(5, kept);
        now.addAndGet(100_000_000);
        assertEquals(96, sampler.weight(event("a")), "it represents those that were dropped before it");
        assertEquals(0, sampler.weight(event("a")));
        now.addAndGet(60_000_000_000L);
        assertEquals(2, sampler.weight(event("a")));
        assertEquals(List.of(96L), sampler.dropped());
    }

    @Test
    void theFirstOfEachKindAreKeptAndThenATrickle() {
        Sampler sampler = sampler(new Random(1), "first 2 in 1m then 1 in 10", false);
        StringBuilder weights = new StringBuilder();
        for (int i = 0; i < 23; i++) {
            weights.append(sampler.weight(event("a"))).append(' ');
        }
        assertEquals("1 1 0 0 0 0 0 0 0 0 0 10 0 0 0 0 0 0 0 0 0 10 0 ", weights.toString());
        assertEquals(1, sampler.weight(event("b")), "another kind");
        now.addAndGet(61_000_000_000L);
        assertEquals(
                2, sampler.weight(event("a")), "the next minute, and the one that was dropped at the end of the last");
    }

    @Test
    void errorsAreSampledOnlyIfTheRuleRequiresIt() {
        Condition all = Condition.EVERYTHING;
        Sampler leaves = new Sampler(List.of(new SamplingRule(all, new Keep.OneIn(1L << 55), false, false)), () -> 0);
        Sampler thins = new Sampler(List.of(new SamplingRule(all, new Keep.OneIn(1L << 55), false, true)), () -> 0);
        assertEquals(1, leaves.weight(event("a").level(Level.ERROR)));
        assertEquals(0, thins.weight(event("a").level(Level.ERROR)));
        assertEquals(0, leaves.weight(event("a")));
    }

    private Sampler sampler(Random random, String keep, boolean together) {
        return new Sampler(
                List.of(new SamplingRule(Condition.EVERYTHING, Keep.parse(keep), together, false)),
                random::nextLong,
                now::get);
    }

    private static Draft event(String message) {
        return new Draft().level(Level.INFO).logger("skerry.gate").message(message);
    }
}
