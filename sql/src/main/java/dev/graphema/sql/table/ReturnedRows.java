package dev.graphema.sql.table;

import java.io.Closeable;
import java.io.IOException;
import java.time.Instant;

/** The rows of an answer, one after the other. Columns are counted from 1. For one thread. */
public interface ReturnedRows extends Closeable {
    /**
     * Goes to the next row; returns false behind the last one.
     *
     * @throws IOException if it cannot be read
     */
    boolean next() throws IOException;

    /** Returns a whole number; 0 for none. */
    long number(int column) throws IOException;

    /** Returns a text; null for none. */
    String text(int column) throws IOException;

    /** Returns a time in microseconds; null for none. */
    Instant time(int column) throws IOException;
}
