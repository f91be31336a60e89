package dev.graphema.sql;

import dev.graphema.batch.BatchDivision;
import dev.graphema.batch.EventBatch;
import dev.graphema.batch.Transmitter;
import dev.graphema.event.Event;
import dev.graphema.sink.RefusedException;
import java.io.IOException;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Properties;
import java.util.TreeSet;

/**
 * Inserts batches into a table, each in one transaction, over one connection that is opened when needed and again after
 * it broke. If the database rejects a value, only its event is dropped. For one thread at a time.
 */
final class SqlTable implements Transmitter {
    private static final Column[] COLUMNS = Column.values();

    private final String url;
    private final Properties properties = new Properties();
    private final String table;
    private final int timeoutSeconds;

    private Connection connection;
    private String insert;

    /** @param user and password: null if the URL or the database requires none */
    SqlTable(String url, String user, String password, String table, Duration timeout) {
        this.url = url;
        this.table = table;
        this.timeoutSeconds = (int) Math.max(1, timeout.toSeconds());
        if (user != null) {
            properties.setProperty("user", user);
        }
        if (password != null) {
            properties.setProperty("password", password);
        }
        if (url.startsWith("jdbc:postgresql:")) {
            // Names of its driver's own. Without a time-out, a server that falls silent would hold the thread for ever.
            properties.setProperty("connectTimeout", Integer.toString(timeoutSeconds));
            properties.setProperty("loginTimeout", Integer.toString(timeoutSeconds));
            properties.setProperty("socketTimeout", Integer.toString(timeoutSeconds));
            properties.setProperty("reWriteBatchedInserts", "true");
            properties.setProperty("ApplicationName", "graphema");
        }
    }

    @Override
    public void send(EventBatch events) throws IOException {
        BatchDivision.send(events, this::attempt);
    }

    private void attempt(EventBatch events) throws IOException {
        try {
            connect();
            insert(events);
        } catch (SQLException e) {
            if (isAboutData(e)) {
                rollBack();
                throw new RefusedException(described(e), events.size());
            } else {
                drop();
                throw new IOException(described(e));
            }
        }
    }

    private void insert(EventBatch events) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(insert)) {
            statement.setQueryTimeout(timeoutSeconds);
            for (int i = 0; i < events.size(); i++) {
                Event event = events.get(i).event();
                for (int column = 0; column < COLUMNS.length; column++) {
                    COLUMNS[column].set(statement, column + 1, event);
                }
                statement.addBatch();
            }
            statement.executeBatch();
            connection.commit();
        }
    }

    /**
     * Returns whether a value causes the error (SQL classes 22, data exception, and 23, constraint), and not the
     * connection.
     */
    private static boolean isAboutData(SQLException problem) {
        for (SQLException e = problem; e != null; e = e.getNextException()) {
            String state = e.getSQLState();
            if (state != null && (state.startsWith("22") || state.startsWith("23"))) {
                return true;
            }
        }
        return false;
    }

    /**
     * Returns the state and the first line of the message of the driver; further lines could contain values of events.
     */
    private static String described(SQLException problem) {
        String message = String.valueOf(problem.getMessage());
        int end = message.indexOf('\n');
        String line = end < 0 ? message : message.substring(0, end);
        int values = line.indexOf("Batch entry");
        return "the database reports " + problem.getSQLState()
                + (values >= 0 || isAboutData(problem) ? "" : ", " + line);
    }

    private void connect() throws SQLException, IOException {
        if (connection != null) {
            return;
        }
        Connection opened = DriverManager.getConnection(url, properties);
        try {
            Dialect dialect = Dialect.of(opened.getMetaData().getDatabaseProductName());
            if (dialect == null) {
                throw new IOException("the database is " + opened.getMetaData().getDatabaseProductName()
                        + " (expected: PostgreSQL or H2)");
            }
            prepareTable(opened, dialect);
            opened.setAutoCommit(false);
            insert = dialect.insert(table);
            connection = opened;
        } catch (SQLException | IOException e) {
            opened.close();
            throw e;
        }
    }

    private void prepareTable(Connection opened, Dialect dialect) throws SQLException, IOException {
        List<String> columns = columns(opened);
        if (columns.isEmpty()) {
            try (Statement statement = opened.createStatement()) {
                statement.execute(dialect.create(table));
                for (String index : dialect.indexes(table)) {
                    statement.execute(index);
                }
            } catch (SQLException e) {
                // Another process may have made it just now.
                columns = columns(opened);
                if (columns.isEmpty()) {
                    throw e;
                }
            }
        }
        TreeSet<String> missing = new TreeSet<>();
        for (Column column : COLUMNS) {
            if (!columns.isEmpty() && !columns.contains(Dialect.name(column))) {
                missing.add(Dialect.name(column));
            }
        }
        if (!missing.isEmpty()) {
            throw new IOException("the table " + table + " has no " + String.join(", ", missing)
                    + ": add the columns, or name another table");
        }
    }

    /** Returns the columns of the table; empty if there is no such table. */
    private List<String> columns(Connection opened) throws SQLException {
        DatabaseMetaData database = opened.getMetaData();
        int dot = table.indexOf('.');
        String schema = dot < 0 ? opened.getSchema() : folded(database, table.substring(0, dot));
        String name = folded(database, table.substring(dot + 1));
        List<String> columns = new ArrayList<>();
        try (ResultSet found = database.getColumns(null, schema, escaped(database, name), null)) {
            while (found.next()) {
                columns.add(found.getString("COLUMN_NAME"));
            }
        }
        return columns;
    }

    /** Returns an unquoted name in the case in which the database stores it. */
    private static String folded(DatabaseMetaData database, String name) throws SQLException {
        return database.storesUpperCaseIdentifiers() ? name.toUpperCase(Locale.ROOT) : name.toLowerCase(Locale.ROOT);
    }

    private static String escaped(DatabaseMetaData database, String name) throws SQLException {
        return name.replace("_", database.getSearchStringEscape() + "_");
    }

    private void rollBack() throws IOException {
        try {
            connection.rollback();
        } catch (SQLException e) {
            drop();
            throw new IOException(described(e));
        }
    }

    private void drop() {
        if (connection != null) {
            Connection broken = connection;
            connection = null;
            try {
                broken.close();
            } catch (SQLException e) {
                // It is broken; the error that revealed it is reported.
                return;
            }
        }
    }

    @Override
    public void close() {
        drop();
    }

    /** Returns the kind of database and the table; a URL may contain a password. */
    @Override
    public String toString() {
        return url.substring(0, url.indexOf(':', 5) + 1) + " table " + table;
    }
}
