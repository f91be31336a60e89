package dev.graphema.sql.table;

import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.partial.EventLines;
import dev.graphema.text.Times;
import java.io.IOException;

/** Reads the events that the sink has written. */
final class EventReading implements RowReading {
    static final String COLUMNS =
            String.join(", ", EventColumns.NUMBER, EventColumns.TIME, EventColumns.NANOS, EventColumns.LINE);

    /** What is wrong with a row whose event cannot be read. */
    static final String NO_EVENT = "its column line is not an event in Graphema JSON";

    private final EventLines lines = WrittenEvents.reader();
    private final ReturnedRows rows;
    private long number;
    private long length;

    /** @param rows those of a statement that returns {@link #COLUMNS} */
    EventReading(ReturnedRows rows) {
        this.rows = rows;
    }

    @Override
    public Event event() throws IOException {
        number = rows.number(1);
        String line = rows.text(4);
        length = line.length();
        return lines.read(line, Times.epochNanos(rows.time(2)) + rows.number(3));
    }

    @Override
    public long number() {
        return number;
    }

    @Override
    public long length() {
        return length;
    }
}
