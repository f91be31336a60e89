package dev.graphema.sql.table;

import dev.graphema.event.Event;
import dev.graphema.query.row.Projection;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.WholeEvents;
import java.io.IOException;
import java.util.function.Predicate;

/** The events in rows of a table. For one thread. */
public final class TableRows extends WholeEvents {
    private final Statements statements;

    /** Null if reading was stopped before there was an answer. */
    private final ReturnedRows answer;

    private final RowReading reading;
    private final Predicate<Event> wanted;
    private final CoverageBuilder coverage;
    private final WithoutRows otherwise;
    private long returned;

    /** What is done if there are no rows at all. */
    public interface WithoutRows {
        void run() throws IOException;
    }

    /**
     * @param answer the rows; null if reading was stopped before there were any
     * @param reading reads their events
     * @param wanted the events to be passed on
     */
    public TableRows(
            Statements statements,
            ReturnedRows answer,
            RowReading reading,
            Predicate<Event> wanted,
            Projection projection,
            CoverageBuilder coverage,
            WithoutRows otherwise) {
        super(projection);
        this.statements = statements;
        this.answer = answer;
        this.reading = reading;
        this.wanted = wanted;
        this.coverage = coverage;
        this.otherwise = otherwise;
    }

    @Override
    public boolean advance() throws IOException {
        if (answer == null) {
            return false;
        }
        while (answer.next()) {
            returned++;
            Event event = reading.event();
            if (!coverage.bytes(reading.length())) {
                return false;
            }
            if (event == null) {
                coverage.damaged(statements.toString(), reading.number(), EventReading.NO_EVENT);
            } else if (wanted.test(event)) {
                current(event);
                coverage.event();
                return true;
            }
        }
        if (returned == 0) {
            otherwise.run();
        }
        return false;
    }

    /** Returns how many rows there were, also those that are not wanted or damaged. */
    long returned() {
        return returned;
    }

    @Override
    public long position() {
        return reading.number();
    }

    @Override
    public void close() throws IOException {
        if (answer != null) {
            answer.close();
        }
    }
}
