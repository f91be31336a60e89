package dev.graphema.runtime;

import dev.graphema.event.Draft;
import dev.graphema.pipeline.Pipeline;

/**
 * Receives events after a runtime was closed: counts them, and prints those at level warn and above as before the
 * start.
 */
final class AfterEnd implements Receiver {
    private final Pipeline ended;
    private final BeforeStart screen;

    AfterEnd(Pipeline ended, BeforeStart screen) {
        this.ended = ended;
        this.screen = screen;
    }

    @Override
    public void accept(Draft draft, long admittedBy) {
        ended.countLate();
        if (draft.level().passes(BeforeStart.THRESHOLD)) {
            screen.accept(draft, admittedBy);
        }
    }

    @Override
    public void refuse(Throwable problem) {
        ended.countLate();
    }
}
