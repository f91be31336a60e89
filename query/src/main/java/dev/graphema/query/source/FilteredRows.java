package dev.graphema.query.source;

import dev.graphema.condition.Condition;
import java.io.IOException;

/** The rows that match a condition. */
final class FilteredRows extends ForwardingRows {
    private final Condition condition;

    FilteredRows(Rows rows, Condition condition) {
        super(rows);
        this.condition = condition;
    }

    @Override
    public boolean advance() throws IOException {
        while (super.advance()) {
            if (condition.matches(event())) {
                return true;
            }
        }
        return false;
    }
}
