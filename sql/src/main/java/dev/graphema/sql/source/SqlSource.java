package dev.graphema.sql.source;

import dev.graphema.condition.Condition;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Following;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.Scan;
import dev.graphema.sql.table.EventColumns;
import dev.graphema.sql.table.Sql;
import dev.graphema.sql.table.TableFollowing;
import dev.graphema.sql.table.TablePlan;
import java.io.IOException;
import java.util.EnumSet;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import javax.sql.DataSource;

/**
 * The events of a table in PostgreSQL or H2. Of one that the sink {@code sql} has written, conditions on attributes, windows, counts by
 * attributes, time steps, and orders with limits become statements with bound values; what the database cannot decide exactly is decided
 * for each event that it returns. The rows of any other table are read as JSON lines of other
 * programs are, with columns as names: by their common meaning, or as {@link #shaped} defines. Only statements that read are sent, over
 * read-only connections. Immutable and thread-safe.
 *
 * <pre>{@code
 * EventSource source = SqlSource.of(dataSource, "events");
 * }</pre>
 */
public final class SqlSource implements EventSource {
    private final SqlReader reader;

    /** How rows of other programs are read. */
    private final LineShape shape;

    /** The last row that is read, of a table of the sink; {@link Long#MAX_VALUE} for all. */
    private final long last;

    /** Whether it is read several times, so that a row must always have the same number. */
    private final boolean isSnapshot;

    private SqlSource(SqlReader reader, LineShape shape, long last, boolean isSnapshot) {
        this.reader = reader;
        this.shape = shape;
        this.last = last;
        this.isSnapshot = isSnapshot;
    }

    /**
     * Returns the events of a table; nothing is read yet.
     *
     * @param table a name of letters, digits and {@code _}, perhaps with that of a schema and a dot before it
     * @throws IllegalArgumentException if it is no such name
     */
    public static SqlSource of(DataSource database, String table) {
        return new SqlSource(
                new SqlReader(Objects.requireNonNull(database, "database"), table),
                LineShape.USUAL,
                Long.MAX_VALUE,
                false);
    }

    /**
     * As above, over connections by the driver for an address.
     *
     * @param url a JDBC URL
     * @param user null if the URL or the database requires none
     * @param password null for none
     */
    public static SqlSource of(String url, String user, String password, String table) {
        return of(new UrlDatabase(url, user, password), table);
    }

    @Override
    public String name() {
        return reader.toString();
    }

    @Override
    public Set<Capability> capabilities() {
        return EnumSet.of(Capability.ORDER, Capability.REPEATED_READING, Capability.LIVE);
    }

    /**
     * Returns the source with what is known of a table of another program: above all, which of its columns are attributes. It is not used
     * for a table that the sink has written.
     */
    public SqlSource shaped(LineShape known) {
        return new SqlSource(reader, Objects.requireNonNull(known, "known"), last, isSnapshot);
    }

    /**
     * Returns the rows that are there now; those that are added later have higher numbers. Of a table of another program, all rows are
     * read, in the order of time.
     */
    @Override
    public EventSource snapshot() throws IOException {
        long newest = isOfSink()
                ? reader.number(
                        Sql.of("select coalesce(max(" + EventColumns.NUMBER + "), 0) from " + reader.table()),
                        new CoverageBuilder(Control.NONE))
                : last;
        return new SqlSource(reader, shape, newest, true);
    }

    private boolean isOfSink() throws IOException {
        return reader.columns().stream().map(OtherColumn::name).toList().containsAll(EventColumns.NEEDED);
    }

    @Override
    public Plan plan(Scan scan, CoverageBuilder coverage) throws IOException {
        if (!isOfSink()) {
            return Plan.scanning(scan, List.of(new OtherTable(reader, reader.columns(), shape).part(scan, isSnapshot)));
        }
        return TablePlan.of(reader, scan, upToLast());
    }

    /** Follows a table that the sink has written. */
    @Override
    public Following follow(Condition where) throws IOException {
        if (!isOfSink()) {
            throw new IOException(
                    reader
                            + " cannot be followed: the sink sql has not written it, so its rows have no order in which they are added; ask for its newest events");
        }
        return new TableFollowing(reader, where);
    }

    private Sql upToLast() {
        return last == Long.MAX_VALUE ? Sql.TRUE : Sql.of(EventColumns.NUMBER + " <= ?", last);
    }
}
