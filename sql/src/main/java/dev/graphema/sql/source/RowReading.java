package dev.graphema.sql.source;

import dev.graphema.event.Event;
import java.sql.ResultSet;
import java.sql.SQLException;

/** Reads the events of rows, one after the other. For one thread. */
interface RowReading {
    /** Returns the event of the current row; null if it is none. */
    Event event(ResultSet rows) throws SQLException;

    /** Returns the number of the last row, which orders events of the same time. */
    long number();

    /** Returns the length of what was read of the last row, in characters. */
    long length();
}
