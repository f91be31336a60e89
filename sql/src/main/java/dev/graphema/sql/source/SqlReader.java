package dev.graphema.sql.source;

import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.sql.table.Cancelling;
import dev.graphema.sql.table.FieldColumns;
import dev.graphema.sql.table.ReturnedRows;
import dev.graphema.sql.table.Sql;
import dev.graphema.sql.table.Statements;
import java.io.IOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.ResultSetMetaData;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.Future;
import java.util.regex.Pattern;
import javax.sql.DataSource;

/** Reads a table over read-only connections. Thread-safe. */
final class SqlReader implements Statements {
    private static final Pattern NAME = Pattern.compile("([A-Za-z_][A-Za-z0-9_]*\\.)?[A-Za-z_][A-Za-z0-9_]*");
    private static final int ROWS_AT_ONCE = 500;
    private static final int LONGEST_SECONDS = 600;

    private final DataSource database;
    private final String table;
    private volatile List<OtherColumn> columns;
    private volatile FieldColumns fields = FieldColumns.NONE;

    SqlReader(DataSource database, String table) {
        if (!NAME.matcher(table).matches()) {
            throw new IllegalArgumentException(
                    "\"" + table
                            + "\" is no name of a table: expected letters, digits and _, with a schema before a dot if need be");
        }
        this.database = database;
        this.table = table;
    }

    @Override
    public String table() {
        return table;
    }

    /**
     * Returns the columns of the table, in their order.
     *
     * @throws IOException if it cannot be read
     */
    List<OtherColumn> columns() throws IOException {
        List<OtherColumn> known = columns;
        if (known != null) {
            return known;
        }
        try (Answer answer =
                ask(Sql.of("select * from " + table + " where 1 = 0"), new CoverageBuilder(Control.NONE))) {
            List<OtherColumn> found = new ArrayList<>();
            ResultSetMetaData described = answer.rows().getMetaData();
            for (int i = 1; i <= described.getColumnCount(); i++) {
                found.add(OtherColumn.of(described, i));
                if (JsonbFields.isColumn(described, i)) {
                    fields = JsonbFields.INSTANCE;
                }
            }
            columns = List.copyOf(found);
            return columns;
        } catch (SQLException e) {
            throw failure(e);
        }
    }

    @Override
    public FieldColumns fields() throws IOException {
        columns(); // which finds them out
        return fields;
    }

    private Connection open() throws SQLException {
        Connection connection = database.getConnection();
        try {
            connection.setReadOnly(true);
            connection.setAutoCommit(false); // PostgreSQL returns rows piece by piece only within a transaction
            return connection;
        } catch (SQLException e) {
            connection.close();
            throw e;
        }
    }

    /** Rows of an answer, which hold a connection until they are closed. */
    final class Answer implements ReturnedRows {
        private final Connection connection;
        private final PreparedStatement statement;
        private final ResultSet rows;

        private Answer(Sql asked, CoverageBuilder coverage) throws SQLException {
            connection = open();
            try {
                statement = connection.prepareStatement(asked.text());
                statement.setFetchSize(ROWS_AT_ONCE);
                statement.setQueryTimeout(LONGEST_SECONDS);
                for (int i = 0; i < asked.values().size(); i++) {
                    statement.setObject(i + 1, asked.values().get(i));
                }
                rows = executed(statement, coverage);
            } catch (SQLException | RuntimeException | Error e) {
                connection.close();
                throw e;
            }
        }

        ResultSet rows() {
            return rows;
        }

        @Override
        public boolean next() throws IOException {
            return read(rows::next);
        }

        @Override
        public long number(int column) throws IOException {
            return read(() -> rows.getLong(column));
        }

        @Override
        public String text(int column) throws IOException {
            return read(() -> rows.getString(column));
        }

        @Override
        public Instant time(int column) throws IOException {
            OffsetDateTime time = read(() -> rows.getObject(column, OffsetDateTime.class));
            return time == null ? null : time.toInstant();
        }

        /** Ends the statement, also if the database has more rows. */
        @Override
        public void close() throws IOException {
            read(() -> {
                try (connection) {
                    statement.close();
                    connection.rollback();
                }
                return null;
            });
        }
    }

    /** What a driver is asked for. */
    interface Call<T> {
        T result() throws SQLException;
    }

    <T> T read(Call<T> call) throws IOException {
        try {
            return call.result();
        } catch (SQLException e) {
            throw failure(e);
        }
    }

    /** Executes a statement, which is cancelled if reading is to be stopped. */
    private static ResultSet executed(PreparedStatement statement, CoverageBuilder coverage) throws SQLException {
        Future<?> watch = Cancelling.watch(coverage, () -> cancel(statement));
        try {
            return statement.executeQuery();
        } finally {
            watch.cancel(false);
        }
    }

    private static void cancel(PreparedStatement statement) {
        try {
            statement.cancel();
        } catch (SQLException e) {
            throw new IllegalStateException(
                    "the statement has ended, or ends after its time limit", e); // and ends this watch
        }
    }

    @Override
    public Answer ask(Sql asked, CoverageBuilder coverage) throws IOException {
        try {
            return new Answer(asked, coverage);
        } catch (SQLException e) {
            if (coverage.isStopped()) {
                return null;
            }
            throw failure(e);
        }
    }

    /** Returns what went wrong; the message of the driver, which could contain values, is cut after its first line. */
    private IOException failure(SQLException problem) {
        String message =
                String.valueOf(problem.getMessage()).lines().findFirst().orElse("");
        boolean isWithoutDriver = message.toLowerCase(Locale.ROOT).contains("no suitable driver");
        return new IOException(
                isWithoutDriver
                        ? "there is no driver for " + database + ": put its jar on the class path"
                        : this + ": " + message,
                problem);
    }

    @Override
    public String toString() {
        return (database instanceof UrlDatabase ? database + " " : "") + "table " + table;
    }
}
