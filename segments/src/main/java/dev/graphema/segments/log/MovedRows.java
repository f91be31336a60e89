package dev.graphema.segments.log;

import dev.graphema.query.source.ForwardingRows;
import dev.graphema.query.source.Rows;

/** Rows of a part of a log, with the positions that they have in the whole log. */
public final class MovedRows extends ForwardingRows {
    private final long before;

    /** @param before the number of bytes of lines before the part */
    public MovedRows(Rows rows, long before) {
        super(rows);
        this.before = before;
    }

    @Override
    public long position() {
        return super.position() + before;
    }
}
