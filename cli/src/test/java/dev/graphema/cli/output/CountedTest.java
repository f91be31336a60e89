package dev.graphema.cli.output;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;

class CountedTest {
    private static final long SEED = 17;

    @Test
    void numbersAreWrittenAsTheJdkWritesThem() {
        Random random = new Random(SEED);
        for (int i = 0; i < 10_000; i++) {
            long number = random.nextLong() >> random.nextInt(64);
            assertEquals(String.format(Locale.ROOT, "%,d", number), Counted.number(number), "seed " + SEED);
            double share = random.nextInt(100_001) / 1000.0;
            assertEquals(Math.round(share * 10) / 10.0, Double.parseDouble(Counted.tenths(share)), "seed " + SEED);
        }
    }

    @Test
    void thingsAreCounted() {
        assertEquals("1 file", Counted.of(1, "file"));
        assertEquals("1,204 files", Counted.of(1204, "file"));
        assertEquals("   12", Counted.right("12", 5));
        assertEquals("123456", Counted.right("123456", 5));
    }
}
