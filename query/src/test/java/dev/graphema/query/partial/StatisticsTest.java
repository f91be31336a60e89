package dev.graphema.query.partial;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.answer.Measure;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class StatisticsTest {
    private static final List<BigDecimal> WANTED = List.of(
            BigDecimal.valueOf(50),
            BigDecimal.valueOf(90),
            BigDecimal.valueOf(95),
            BigDecimal.valueOf(99),
            new BigDecimal("99.9"));

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
        Measure measure = one.measure(WANTED);
        values.sort(null);
        assertEquals(values.size(), measure.count());
        assertEquals(values.stream().distinct().count(), measure.distinct());
        assertEquals(BigDecimal.valueOf(values.get(0)), measure.least());
        assertEquals(BigDecimal.valueOf(values.get(values.size() - 1)), measure.most());
        for (BigDecimal of : WANTED) {
            int rank = rank(of, values.size());
            assertEquals(BigDecimal.valueOf(values.get(rank - 1)), measure.percentile(of.doubleValue()), of.toString());
        }
        assertEquals(
                BigDecimal.valueOf(values.stream().mapToLong(Long::longValue).sum()), measure.sum());
        assertEquals(0, measure.error());
    }

    @Test
    void numbersWithVeryManyZerosCostLittle() {
        Statistics statistics = new Statistics();
        for (String number : List.of("1E+9999", "3", "1E-9999", "1E+99999", "1E+2147483647", "1E-2147483640")) {
            statistics.add(new BigDecimal(number), 2);
        }
        Measure measure = statistics.measure(WANTED);
        assertEquals(6, measure.distinct());
        assertEquals(12, measure.count());
        assertEquals(6, measure.numbers(), "the others are too large or too small for arithmetic");
        assertEquals(0, measure.sum().compareTo(new BigDecimal("2E+9999")), "exact up to 2,000 digits");
        assertEquals(new BigDecimal("1E-9999"), measure.least());
        assertEquals(new BigDecimal("1E+9999"), measure.most());
        assertEquals(new BigDecimal("3"), measure.percentile(50));
    }

    private static int rank(BigDecimal of, int count) {
        return of.multiply(BigDecimal.valueOf(count))
                .divide(BigDecimal.valueOf(100), 0, RoundingMode.CEILING)
                .intValueExact();
    }

    @Test
    void numbersKeepTheirDigits() {
        Statistics gathering = new Statistics();
        for (Object value : List.of(
                0.1,
                0.2,
                Long.MAX_VALUE,
                Long.MAX_VALUE,
                new BigDecimal("0.30000000000000000000001"),
                "0.4",
                1.0,
                1L)) {
            gathering.add(value, 1);
        }
        Measure measure = gathering.measure(WANTED);

        assertEquals(new BigDecimal("18446744073709551617.00000000000000000000001"), measure.sum());
        assertEquals(8, measure.numbers());
        assertEquals(6, measure.distinct(), "1 and 1.0 are the same number");
        assertEquals(new BigDecimal("0.1"), measure.least());
        assertEquals(new BigDecimal("0.4"), measure.percentile(50));
        assertEquals(BigDecimal.valueOf(Long.MAX_VALUE), measure.percentile(99.9));
    }

    @Test
    void whatIsNotANumberIsCountedApart() {
        Statistics gathering = new Statistics();
        for (int i = 1; i <= 1_000; i++) {
            gathering.add(i % 2 == 0 ? (Object) (long) i : (Object) (i + 0.5), 1);
        }
        gathering.add("none", 1);
        gathering.add(Double.NaN, 1);
        gathering.add(null, 1);
        Measure measure = gathering.measure(WANTED);

        assertEquals(1_002, measure.count());
        assertEquals(1_002, measure.distinct());
        assertEquals(1_000, measure.numbers());
        assertEquals(new BigDecimal("500"), measure.percentile(50));
        Measure none = new Statistics().measure(WANTED);
        assertEquals(List.of(), none.percentiles());
        assertEquals(BigDecimal.ZERO, none.mean());
    }

    @ParameterizedTest
    @ValueSource(longs = {7, 8})
    void beyondTheLimitPercentilesHaveTheStatedErrorHoweverTheyWereMerged(long seed) {
        Random random = new Random(seed);
        List<Double> values = new ArrayList<>();
        List<Statistics> parts = Stream.generate(Statistics::new).limit(4).toList();
        for (int i = 0; i < 4 * Measure.MOST_DISTINCT; i++) {
            double value = Math.exp(random.nextGaussian() * 5) * (i % 9 == 0 ? -1 : 1);
            values.add(value);
            parts.get(random.nextInt(4)).add(value, 1);
        }
        parts.get(3).add(parts.get(2));
        parts.get(0).add(parts.get(1));
        parts.get(0).add(parts.get(3));
        Measure measure = parts.get(0).measure(WANTED);
        values.sort(null);

        assertEquals(Measure.ERROR, measure.error());
        for (BigDecimal of : WANTED) {
            double exact = values.get(rank(of, values.size()) - 1);
            double found = measure.percentile(of.doubleValue()).doubleValue();
            assertEquals(exact, found, Math.abs(exact) * Measure.ERROR * 1.0001, "seed " + seed + ", " + of);
        }
        assertEquals(values.get(0), measure.least().doubleValue());
        assertEquals(values.get(values.size() - 1), measure.most().doubleValue());
    }

    @Test
    void durationsAreTheirNanosecondsHoweverTheyAreWritten() {
        Statistics gathering = new Statistics();
        for (Object value : List.of(Duration.ofMillis(5), "PT0.005S", "5ms", Duration.ofSeconds(Long.MAX_VALUE))) {
            gathering.add(value, 1);
        }
        Measure measure = gathering.measure(WANTED);
        assertTrue(measure.isDuration());
        assertEquals(2, measure.distinct());
        assertEquals(BigDecimal.valueOf(5_000_000), measure.percentile(50));
        assertEquals(0, new BigDecimal(Long.MAX_VALUE + "000000000").compareTo(measure.most()));
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
