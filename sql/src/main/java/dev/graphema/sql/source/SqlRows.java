package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.lines.form.WrittenEvents;
import dev.graphema.query.partial.EventLines;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.OffsetDateTime;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** The events in rows of a table. For one thread. */
final class SqlRows implements Rows {
    static final String COLUMNS =
            String.join(", ", EventColumns.NUMBER, EventColumns.TIME, EventColumns.NANOS, EventColumns.LINE);

    private final SqlReader reader;
    private final SqlReader.Answer answer;
    private final Predicate<Event> wanted;
    private final Projection projection;
    private final CoverageBuilder coverage;
    private final WithoutRows otherwise;
    private long returned;
    private final EventLines lines = WrittenEvents.reader();
    private Event event;
    private long number;

    /** What is done if there are no rows at all. */
    interface WithoutRows {
        void run() throws IOException;
    }

    /**
     * @param asked returns the {@link #COLUMNS}
     * @param wanted the events to be passed on
     */
    SqlRows(
            SqlReader reader,
            Sql asked,
            Predicate<Event> wanted,
            Projection projection,
            CoverageBuilder coverage,
            WithoutRows otherwise)
            throws IOException {
        this.otherwise = otherwise;
        this.reader = reader;
        this.wanted = wanted;
        this.projection = projection;
        this.coverage = coverage;
        this.answer = reader.ask(asked);
    }

    @Override
    public boolean advance() throws IOException {
        try {
            ResultSet rows = answer.rows();
            while (rows.next()) {
                returned++;
                number = rows.getLong(1);
                String line = rows.getString(4);
                if (!coverage.bytes(line.length())) {
                    return false;
                }
                event = lines.read(line, SqlTimes.epochNanos(rows.getObject(2, OffsetDateTime.class), rows.getInt(3)));
                if (event == null) {
                    coverage.damaged(reader.toString(), number, "its column line is not an event in Graphema JSON");
                } else if (wanted.test(event)) {
                    coverage.event();
                    return true;
                }
            }
            if (returned == 0) {
                otherwise.run();
            }
            return false;
        } catch (SQLException e) {
            throw reader.failure(e);
        }
    }

    /** Returns how many rows there were, also those that are not wanted or damaged. */
    long returned() {
        return returned;
    }

    @Override
    public long time() {
        return event.epochNanos();
    }

    @Override
    public long weight() {
        return event.weight();
    }

    @Override
    public TraceId trace() {
        return event.trace();
    }

    @Override
    public Object value(int index) {
        return projection.value(index, event);
    }

    @Override
    public Event event() {
        return event;
    }

    @Override
    public long position() {
        return number;
    }

    @Override
    public Supplier<Event> keep() {
        Event kept = event;
        return () -> kept;
    }

    @Override
    public void close() throws IOException {
        try {
            answer.close();
        } catch (SQLException e) {
            throw reader.failure(e);
        }
    }
}
