package dev.graphema.sql;

import dev.graphema.batch.BatchSink;
import dev.graphema.option.Option;
import dev.graphema.option.Options;
import dev.graphema.sink.Sink;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkKind;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/**
 * Writes events into a table of PostgreSQL or H2: one transaction per batch, one row per event, also if it arrives
 * several times. The table is created if it is missing, and checked if it exists.
 */
public final class SqlKind implements SinkKind {
    public static final Option<String> URL = Option.of(
                    "url",
                    "a JDBC URL such as jdbc:postgresql://localhost/logs",
                    text -> text.startsWith("jdbc:") ? text : null,
                    text -> text)
            .required()
            .secret()
            .meaning("the JDBC URL of the database; the program provides the driver");
    public static final Option<String> USER =
            Option.text("user", "a user's name").standard(null).meaning("the user");
    public static final Option<String> PASSWORD = Option.text("password", "a password")
            .standard(null)
            .secret()
            .meaning("the password; write it as `${NAME}`, not into the file");
    public static final Option<String> TABLE = Option.of(
                    "table",
                    "a table's name of letters, digits and _, with a schema before a dot if need be",
                    text -> text.matches("([A-Za-z_][A-Za-z0-9_]*\\.)?[A-Za-z_][A-Za-z0-9_]*") ? text : null,
                    text -> text)
            .standard("events")
            .meaning("the table, which is created with its indexes if it is missing");
    public static final Option<Duration> TIMEOUT = Option.duration("timeout")
            .standard(Duration.ofSeconds(10), "10s")
            .meaning("the longest duration of connecting, and of a batch");

    @Override
    public String name() {
        return "sql";
    }

    @Override
    public String meaning() {
        return "a table of PostgreSQL or H2, made when it is missing";
    }

    @Override
    public List<Option<?>> options() {
        List<Option<?>> options = new ArrayList<>(List.of(URL, USER, PASSWORD, TABLE, TIMEOUT));
        options.addAll(BatchSink.OPTIONS);
        return options;
    }

    @Override
    public boolean mayRepeat() {
        return true;
    }

    @Override
    public Sink open(Options options, SinkContext context) {
        SqlTable table = new SqlTable(
                options.get(URL), options.get(USER), options.get(PASSWORD), options.get(TABLE), options.get(TIMEOUT));
        return BatchSink.open(table, options, context);
    }

    @Override
    public String toString() {
        return name();
    }
}
