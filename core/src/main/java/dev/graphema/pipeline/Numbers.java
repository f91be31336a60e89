package dev.graphema.pipeline;

import java.util.concurrent.atomic.AtomicLong;

/** Numbers the events of one run of the process, without gaps, as they go out. For any thread. */
final class Numbers {
    private final String run;
    private final AtomicLong last = new AtomicLong();

    /** @param run what tells this run of the process from all others, or null */
    Numbers(String run) {
        this.run = run;
    }

    String run() {
        return run;
    }

    long next() {
        return last.incrementAndGet();
    }

    /** How many there were so far. */
    long last() {
        return last.get();
    }
}
