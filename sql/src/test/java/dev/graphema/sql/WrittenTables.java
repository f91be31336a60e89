package dev.graphema.sql;

import dev.graphema.batch.EventBatch;
import dev.graphema.event.Event;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.time.Duration;
import java.util.List;
import java.util.UUID;

/** Tables as the sink writes them, in a real PostgreSQL server and a real H2. */
public final class WrittenTables {
    private static EmbeddedPostgres server;
    private static int tables;

    private WrittenTables() {}

    /** Returns the URL of a database: {@code h2}, a new one, or {@code postgresql}, always the same. */
    public static synchronized String url(String database) throws IOException {
        if (database.equals("h2")) {
            return "jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1";
        }
        if (server == null) {
            server = EmbeddedPostgres.start(); // it ends with the process
        }
        return server.getJdbcUrl("postgres", "postgres");
    }

    /** Returns the name of a table that does not exist yet. */
    public static synchronized String newName() {
        return "written_" + ++tables;
    }

    /** Writes events into a table. */
    public static void write(String url, String table, List<Event> events) throws IOException {
        SqlTable to = new SqlTable(url, null, null, table, Duration.ofSeconds(30));
        try {
            to.send(EventBatch.of(events.toArray(Event[]::new)));
        } finally {
            to.close();
        }
    }
}
