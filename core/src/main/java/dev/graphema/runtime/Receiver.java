package dev.graphema.runtime;

import dev.graphema.event.Draft;

/** Receives the events of a tree of loggers. Throws only {@link OutOfMemoryError}. */
interface Receiver {
    /** @param admittedBy the generation of the settings that accepted the event */
    void accept(Draft draft, long admittedBy);

    /** Counts an event that could not be created, and reports the first one. */
    void refuse(Throwable problem);
}
