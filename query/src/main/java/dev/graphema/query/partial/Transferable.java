package dev.graphema.query.partial;

import dev.graphema.query.Ask;
import java.io.IOException;

/** A partial answer whose state can be moved to another process. */
abstract class Transferable {
    /** Returns what is asked. */
    abstract Ask<?> ask();

    abstract void write(StateWriter to) throws IOException;

    /** Reads the state of another one and adds it. */
    abstract void merge(StateReader from) throws IOException;
}
