package dev.graphema;

import dev.graphema.event.Draft;

/** Whoever takes the events of a tree of loggers at the moment. Never throws. */
interface Receiver {
    void accept(Draft draft);
}
