package dev.graphema.query.partial;

import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import java.io.IOException;

/** Events that another process writes, one after the other. For one thread. */
public final class TransferredEvents {
    private final StateReader state;
    private Coverage coverage;

    TransferredEvents(StateReader state) {
        this.state = state;
    }

    /**
     * Returns the next event; damaged ones are left out.
     *
     * @return null if there are no more
     * @throws IOException if the stream ends before, or is not of this form
     */
    public Event next() throws IOException {
        while (coverage == null) {
            if (!state.next()) {
                coverage = CoverageState.read(state);
                return null;
            }
            Event event = state.event(state.number());
            state.end();
            if (event != null) {
                return event;
            }
        }
        return null;
    }

    /** Returns what was read for the events; null before the last one was returned. */
    public Coverage coverage() {
        return coverage;
    }
}
