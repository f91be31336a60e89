package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.partial.EventLines;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.OffsetDateTime;

/** Reads the events that the sink has written. */
final class EventReading implements RowReading {
    static final String COLUMNS =
            String.join(", ", EventColumns.NUMBER, EventColumns.TIME, EventColumns.NANOS, EventColumns.LINE);

    private final EventLines lines = WrittenEvents.reader();
    private long number;
    private long length;

    @Override
    public Event event(ResultSet rows) throws SQLException {
        number = rows.getLong(1);
        String line = rows.getString(4);
        length = line.length();
        return lines.read(line, SqlTimes.epochNanos(rows.getObject(2, OffsetDateTime.class), rows.getInt(3)));
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
