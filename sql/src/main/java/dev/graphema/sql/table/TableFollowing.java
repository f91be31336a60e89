package dev.graphema.sql.table;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.Following;
import java.io.IOException;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.LongSupplier;

/**
 * Passes on the rows that are added to a table. A row gets its number when it is inserted, but can be seen only when its transaction has ended:
 * after rows with greater numbers. Rows behind these are therefore looked for again, for as long as {@link #LATE}. For one thread.
 */
public final class TableFollowing implements Following {
    /** The longest time between rows with greater numbers and a row. */
    static final Duration LATE = Duration.ofSeconds(10);

    private final Statements statements;
    private final Condition where;
    private final Sql matching;
    private final LongSupplier nanoTime;
    private final CoverageBuilder coverage = new CoverageBuilder(Control.NONE);

    /** Up to this number, no row is looked for any more. */
    private long settled;

    /** The numbers of rows above it that were passed on. */
    private final Set<Long> passed = new HashSet<>();

    private final Deque<Reached> reached = new ArrayDeque<>();

    /** @param number the greatest one at a moment */
    private record Reached(long number, long nanoTime) {}

    /**
     * Begins with the rows that are added from now on.
     *
     * @throws IOException if the table cannot be read
     */
    public TableFollowing(Statements statements, Condition where) throws IOException {
        this(statements, where, System::nanoTime);
    }

    TableFollowing(Statements statements, Condition where, LongSupplier nanoTime) throws IOException {
        this.statements = statements;
        this.where = where;
        this.nanoTime = nanoTime;
        this.matching = TablePlan.matching(where, statements.fields());
        this.settled = greatest();
    }

    private long greatest() throws IOException {
        return statements.number(
                Sql.of("select coalesce(max(" + EventColumns.NUMBER + "), 0) from " + statements.table()), coverage);
    }

    @Override
    public boolean poll(Listener listener) throws IOException {
        long now = nanoTime.getAsLong();
        long greatest = greatest();
        Sql added = Sql.all(List.of(Sql.of(EventColumns.NUMBER + " > ?", settled), matching));
        try (ReturnedRows rows = statements.ask(
                Sql.of("select " + EventReading.COLUMNS + " from " + statements.table() + " where ")
                        .then(added)
                        .then(" order by " + EventColumns.NUMBER),
                coverage)) {
            pass(rows, listener);
        }
        settle(greatest, now);
        return true;
    }

    private void pass(ReturnedRows rows, Listener listener) throws IOException {
        EventReading reading = new EventReading(rows);
        while (rows.next()) {
            if (!passed.add(rows.number(1))) {
                continue;
            }
            Event event = reading.event();
            coverage.bytes(reading.length());
            if (event == null) {
                coverage.damaged(statements.toString(), reading.number(), EventReading.NO_EVENT);
            } else if (where.matches(event)) {
                coverage.event();
                listener.event(event);
            }
        }
    }

    /** Forgets the numbers behind which no row can come any more. */
    private void settle(long greatest, long now) {
        reached.add(new Reached(greatest, now));
        while (now - reached.peek().nanoTime() > LATE.toNanos()) {
            settled = reached.remove().number();
            passed.removeIf(number -> number <= settled);
        }
    }

    @Override
    public Coverage coverage() {
        return coverage.coverage();
    }

    @Override
    public void close() {
        // nothing is open between polls
    }
}
