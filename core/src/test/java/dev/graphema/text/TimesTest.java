package dev.graphema.text;

import static org.junit.jupiter.api.Assertions.assertTrue;

import java.time.Instant;
import org.junit.jupiter.api.Test;

class TimesTest {
    @Test
    void theCurrentTimeIsThatOfTheClock() {
        for (int i = 0; i < 20_000; i++) {
            long before = Times.epochNanos(Instant.now());
            long now = Times.now();
            long after = Times.epochNanos(Instant.now());
            // The clock may be adjusted meanwhile by less than that.
            assertTrue(now > before - 1_000_000 && now < after + 1_000_000, before + " " + now + " " + after);
        }
    }
}
