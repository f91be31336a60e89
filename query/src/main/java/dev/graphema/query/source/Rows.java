package dev.graphema.query.source;

import dev.graphema.query.row.EventRow;
import java.io.Closeable;
import java.io.IOException;

/** The rows of a part, one after the other; it is the view of the current one. For one thread. */
public interface Rows extends EventRow, Closeable {
    /**
     * Moves to the next row.
     *
     * @return false if there are no more
     */
    boolean advance() throws IOException;
}
