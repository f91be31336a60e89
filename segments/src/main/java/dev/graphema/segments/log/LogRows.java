package dev.graphema.segments.log;

import dev.graphema.query.source.ForwardingRows;
import dev.graphema.query.source.Rows;
import java.io.IOException;

/** Rows of a part of a log, with the positions that they have in the whole log. */
public final class LogRows extends ForwardingRows {
    private final LogLines lines;
    private final long before;

    /**
     * @param lines what the rows are read from, which is closed with them
     * @param before the number of bytes of lines before the part
     */
    public LogRows(Rows rows, LogLines lines, long before) {
        super(rows);
        this.lines = lines;
        this.before = before;
    }

    @Override
    public long position() {
        return super.position() + before;
    }

    @Override
    public void close() throws IOException {
        try (lines) {
            super.close();
        }
    }
}
