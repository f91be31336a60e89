package skerry;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.sql.StatementEvents;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import javax.sql.DataSource;

/** A program whose statements are events, and whose events are rows of a table, in a real PostgreSQL that is started for it. */
public final class Bookings {
    private static final Logger log = Logger.of(Bookings.class);

    public static void main(String[] arguments) throws IOException, SQLException {
        try (EmbeddedPostgres postgres = EmbeddedPostgres.start()) {
            System.setProperty("DATABASE", postgres.getJdbcUrl("postgres", "postgres"));
            DataSource database = postgres.getPostgresDatabase();
            try (Graphema graphema = Graphema.start(Path.of("graphema.yaml"))) {
                book(StatementEvents.of(database, log, Duration.ofSeconds(5)));
            }
            show(database, "select level, message, fields->>'statement' from events order by time");
        }
    }

    private static void book(DataSource lanes) throws SQLException {
        try (Connection connection = lanes.getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("create table lane (name varchar(10) primary key)");
            statement.execute("insert into lane values ('A3')");
            log.info("lane taken", f -> f.put("lane", "A3"));
            try {
                statement.execute("insert into lane values ('A3')");
            } catch (SQLException e) {
                log.warn("lane refused", f -> f.put("lane", "A3"));
            }
        }
    }

    private static void show(DataSource database, String question) throws SQLException {
        try (Connection connection = database.getConnection();
                Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery(question)) {
            while (row.next()) {
                System.out.println(row.getString(1) + " | " + row.getString(2) + " | " + row.getString(3));
            }
        }
    }
}
