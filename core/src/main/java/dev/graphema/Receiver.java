package dev.graphema;

import dev.graphema.event.Draft;

/** Whoever takes the events of a tree of loggers at the moment. Never throws. */
interface Receiver {
    /** @param admittedBy the generation of the settings that let the event in */
    void accept(Draft draft, long admittedBy);
}
