package dev.graphema.examples.day;

import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.SplittableRandom;

/** Random numbers and the clock of the day, always the same. */
final class Script {
    static final LocalDate DATE = LocalDate.of(2026, 5, 15);

    /** The local time of Brackholm. */
    static final ZoneOffset ZONE = ZoneOffset.ofHours(1);

    static final long MILLI = 1_000_000L;
    static final long SECOND = 1_000 * MILLI;

    private final SplittableRandom random = new SplittableRandom(20_260_515);

    /** Returns the time of a local time, in nanoseconds since 1970. */
    static long at(String time) {
        return DATE.atTime(LocalTime.parse(time)).toEpochSecond(ZONE) * SECOND;
    }

    long id() {
        return random.nextLong() | 1;
    }

    /** Returns a uniformly distributed duration in nanoseconds. */
    long millis(int from, int to) {
        return random.nextLong(from * MILLI, to * MILLI);
    }

    int number(int from, int to) {
        return random.nextInt(from, to);
    }

    boolean chance(double share) {
        return random.nextDouble() < share;
    }
}
