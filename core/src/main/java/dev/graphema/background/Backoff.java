package dev.graphema.background;

import java.time.Duration;
import java.util.random.RandomGenerator;

/**
 * Pauses between attempts: each about twice as long as the one before, up to a limit, and none quite as long as another
 * sender's, so that those who were cut off together do not come back together. A pause that the receiver asks for is kept.
 * For one thread.
 */
public final class Backoff {
    private final Duration first;
    private final Duration longest;
    private final RandomGenerator random;
    private int attempts;

    public Backoff(Duration first, Duration longest, RandomGenerator random) {
        this.first = first;
        this.longest = longest;
        this.random = random;
    }

    /**
     * The pause after one more failed attempt: between half and the whole of what has grown so far.
     *
     * @param asked what the receiver asks for, or null
     */
    public Duration next(Duration asked) {
        long grown = Math.min(longest.toMillis(), first.toMillis() << Math.min(attempts++, 20));
        long jittered = grown / 2 + random.nextLong(grown / 2 + 1);
        Duration own = Duration.ofMillis(jittered);
        return asked == null || asked.compareTo(own) < 0 ? own : asked;
    }

    public int attempts() {
        return attempts;
    }

    public void reset() {
        attempts = 0;
    }
}
