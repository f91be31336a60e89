package dev.graphema.query.partial;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.answer.Measure;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.Test;

class StatisticsTest {
    @Test
    void wholeNumbersAndDurationsHaveExactPercentilesAlsoWhenTwoCountThem() {
        Random random = new Random(5);
        List<Long> values = new ArrayList<>();
        Statistics one = new Statistics();
        Statistics other = new Statistics();
        for (int i = 0; i < 1_100; i++) {
            long value = random.nextInt(400) - 100L;
            long weight = 1 + random.nextInt(3);
            for (int k = 0; k < weight; k++) {
                values.add(value);
            }
            (i % 3 == 0 ? one : other).add(value, weight);
        }
        one.add(other);
        Measure measure = one.measure();
        values.sort(null);
        assertEquals(values.size(), measure.count());
        assertEquals(values.stream().distinct().count(), measure.distinct());
        assertEquals(values.get(0).doubleValue(), measure.least());
        assertEquals(values.get(values.size() - 1).doubleValue(), measure.most());
        assertEquals(rank(values, 50), measure.median());
        assertEquals(rank(values, 95), measure.p95());
        assertEquals(rank(values, 99), measure.p99());
        assertEquals(values.stream().mapToLong(Long::longValue).sum(), measure.sum());
    }

    private static double rank(List<Long> sorted, int percent) {
        return sorted.get((sorted.size() * percent + 99) / 100 - 1);
    }

    @Test
    void allElseHasPercentilesThatAreNear() {
        Statistics gathering = new Statistics();
        for (int i = 1; i <= 1_000; i++) {
            gathering.add(i % 2 == 0 ? (Object) (long) i : (Object) (double) i, 1);
        }
        gathering.add("none", 1);
        gathering.add(Double.NaN, 1);
        Measure measure = gathering.measure();
        assertEquals(1_002, measure.count());
        assertEquals(1_002, measure.distinct());
        assertEquals(1_000, measure.numbers());
        assertEquals(500, measure.median(), 5);
        assertEquals(990, measure.p99(), 3);
        assertEquals(1, measure.least());
        assertEquals(1_000, measure.most());
    }

    @Test
    void durationsAreTheirNanosecondsHoweverTheyAreWritten() {
        Statistics gathering = new Statistics();
        for (Object value : List.of(Duration.ofMillis(5), "PT0.005S", "5ms", Duration.ofSeconds(Long.MAX_VALUE))) {
            gathering.add(value, 1);
        }
        Measure measure = gathering.measure();
        assertTrue(measure.isDuration());
        assertEquals(2, measure.distinct());
        assertEquals(5e6, measure.median());
        assertEquals(Long.MAX_VALUE * 1e9, measure.most());
    }

    @Test
    void aTableOfNumbersKeepsItsLimitAndItsOrder() {
        NumberCounts counts = new NumberCounts(1_000);
        Map<Long, Long> expected = new TreeMap<>();
        Random random = new Random(6);
        while (expected.size() < 1_000) {
            long number = random.nextInt(3) == 0 ? random.nextLong() : random.nextInt(900);
            expected.merge(number, 2L, Long::sum);
            assertTrue(counts.add(number, 2));
        }
        assertFalse(counts.add(-1_000_000, 1));
        assertEquals(1_000, counts.size());
        Map<Long, Long> seen = new TreeMap<>();
        List<Long> order = new ArrayList<>();
        counts.inOrder((number, count) -> {
            seen.put(number, count);
            order.add(number);
        });
        assertEquals(expected, seen);
        assertEquals(List.copyOf(expected.keySet()), order);
    }
}
