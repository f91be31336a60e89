package dev.graphema.sql.table;

import dev.graphema.event.Event;
import java.io.IOException;

/** Reads the events of rows, one after the other. For one thread. */
public interface RowReading {
    /** Returns the event of the current row; null if it is none. */
    Event event() throws IOException;

    /** Returns the number of the last row, which orders events of the same time. */
    long number();

    /** Returns the length of what was read of the last row, in characters. */
    long length();
}
