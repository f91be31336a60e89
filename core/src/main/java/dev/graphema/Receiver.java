package dev.graphema;

import dev.graphema.event.Draft;

/** Takes the events of a tree of loggers at the moment. Throws nothing but {@link OutOfMemoryError}. */
interface Receiver {
    /** @param admittedBy the generation of the settings that let the event in */
    void accept(Draft draft, long admittedBy);

    /** Counts an event that could not be made, and reports the first one. */
    void refuse(Throwable problem);
}
