package dev.graphema.pipeline;

import java.util.concurrent.atomic.AtomicLong;

/** The sequence numbers of the events of one run of the process, without gaps. For any thread. */
final class SequenceNumbers {
    private final String run;
    private final AtomicLong last = new AtomicLong();

    /** @param run what tells this run of the process from all others, or null */
    SequenceNumbers(String run) {
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
