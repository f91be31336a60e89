package dev.graphema.sql.source;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Rows;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** The events in rows of a table. For one thread. */
final class SqlRows implements Rows {
    private final SqlReader reader;

    /** Null if reading was stopped before there was an answer. */
    private final SqlReader.Answer answer;

    private final RowReading reading;
    private final Predicate<Event> wanted;
    private final Projection projection;
    private final CoverageBuilder coverage;
    private final WithoutRows otherwise;
    private long returned;
    private Event event;

    /** What is done if there are no rows at all. */
    interface WithoutRows {
        void run() throws IOException;
    }

    /**
     * @param asked returns what is read
     * @param wanted the events to be passed on
     */
    SqlRows(
            SqlReader reader,
            Sql asked,
            RowReading reading,
            Predicate<Event> wanted,
            Projection projection,
            CoverageBuilder coverage,
            WithoutRows otherwise)
            throws IOException {
        this.otherwise = otherwise;
        this.reading = reading;
        this.reader = reader;
        this.wanted = wanted;
        this.projection = projection;
        this.coverage = coverage;
        this.answer = reader.ask(asked, coverage);
    }

    @Override
    public boolean advance() throws IOException {
        if (answer == null) {
            return false;
        }
        try {
            ResultSet rows = answer.rows();
            while (rows.next()) {
                returned++;
                event = reading.event(rows);
                if (!coverage.bytes(reading.length())) {
                    return false;
                }
                if (event == null) {
                    coverage.damaged(
                            reader.toString(), reading.number(), "its column line is not an event in Graphema JSON");
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
        return reading.number();
    }

    @Override
    public Supplier<Event> keep() {
        Event kept = event;
        return () -> kept;
    }

    @Override
    public void close() throws IOException {
        try {
            if (answer != null) {
                answer.close();
            }
        } catch (SQLException e) {
            throw reader.failure(e);
        }
    }
}
