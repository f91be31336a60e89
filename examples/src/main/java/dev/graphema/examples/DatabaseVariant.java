package dev.graphema.examples;

import dev.graphema.cli.output.Console;
import dev.graphema.cli.output.Counted;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;

/** A real PostgreSQL server, started for the demo. */
final class DatabaseVariant implements Variant {
    private static final String FIRST_FAILURES = """
            select failure->>'type' as failure, instance, count(*) as events
            from events where failure is not null
            group by 1, 2 order by 3 desc""";
    private static final String LONGEST_WAITS = """
            select instance, count(*) as waits, max((fields->>'lock_wait_ms')::int) as longest_ms
            from events where fields ? 'lock_wait_ms'
            group by 1 order by 3 desc""";

    private final EmbeddedPostgres server;
    private final String url;

    private DatabaseVariant(EmbeddedPostgres server) {
        this.server = server;
        this.url = server.getJdbcUrl("postgres", "postgres");
    }

    static DatabaseVariant start(Path folder) throws IOException {
        return new DatabaseVariant(EmbeddedPostgres.builder()
                .setOverrideWorkingDirectory(folder.resolve("postgresql").toFile())
                .start());
    }

    @Override
    public String settings(String settings) {
        return Variant.withSink(settings, "table", "{type: sql, url: \"" + url + "\", batch: {wait: 200ms}}");
    }

    @Override
    public boolean report(Console console, Path logs) throws IOException {
        long written = QueryExecutor.answer(Question.all().newest(0), LineFiles.at(List.of(logs)))
                .matching();
        try (Connection connection = DriverManager.getConnection(url)) {
            List<List<String>> count = rows(connection, "select count(*) from events");
            long stored = Long.parseLong(count.get(1).get(0));
            console.print("");
            console.print("The table in PostgreSQL has " + Counted.of(stored, "event") + ", the files have "
                    + Counted.of(written, "event") + ".");
            console.print("The same questions in SQL:");
            show(console, connection, FIRST_FAILURES);
            show(console, connection, LONGEST_WAITS);
            return stored == written;
        } catch (SQLException e) {
            throw new IOException(e);
        }
    }

    private static void show(Console console, Connection connection, String query) throws SQLException {
        console.print("");
        query.lines().forEach(console::print);
        List<List<String>> rows = rows(connection, query);
        int[] widths = new int[rows.get(0).size()];
        for (List<String> row : rows) {
            for (int i = 0; i < widths.length; i++) {
                widths[i] = Math.max(widths[i], row.get(i).length());
            }
        }
        for (List<String> row : rows) {
            StringBuilder line = new StringBuilder("  ");
            for (int i = 0; i < widths.length; i++) {
                line.append(row.get(i)).append(" ".repeat(widths[i] - row.get(i).length() + 2));
            }
            console.print(line.toString().stripTrailing());
        }
    }

    /** Returns the rows after the names of the columns. */
    private static List<List<String>> rows(Connection connection, String query) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet found = statement.executeQuery(query.replace(" ? ", " ?? "))) {
            int columns = found.getMetaData().getColumnCount();
            List<List<String>> rows = new ArrayList<>();
            List<String> names = new ArrayList<>();
            for (int i = 1; i <= columns; i++) {
                names.add(found.getMetaData().getColumnLabel(i));
            }
            rows.add(names);
            while (found.next()) {
                List<String> row = new ArrayList<>();
                for (int i = 1; i <= columns; i++) {
                    row.add(found.getString(i));
                }
                rows.add(row);
            }
            return rows;
        }
    }

    @Override
    public void close() throws IOException {
        server.close();
    }
}
