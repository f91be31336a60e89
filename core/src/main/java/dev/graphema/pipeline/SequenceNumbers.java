package dev.graphema.pipeline;

import java.util.concurrent.atomic.AtomicLong;

/** The sequence numbers of the events of one run of the process, without gaps. For any thread. */
final class SequenceNumbers {
    private final String run;
    private final AtomicLong last = new AtomicLong();

    /** @param run the id of this run of the process, or null */
    SequenceNumbers(String run) {
        this.run = run;
    }

    String run() {
        return run;
    }

    long next() {
        return last.incrementAndGet();
    }

    /** Returns how many numbers were used. */
    long last() {
        return last.get();
    }
}
