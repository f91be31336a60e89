package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.event.Level;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sql.SqlKind;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.UUID;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The search verbs over a table that the sink has written. */
class TableVerbsTest extends CommandFixture {
    private final String url = "jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1";

    @BeforeEach
    void writeTable() {
        write(30, "lane asked for");
    }

    private void write(int count, String message) {
        try (Graphema graphema = Graphema.isolated(settings -> settings.service("deck")
                .spoolPath(folder.resolve("spool"))
                .sink(
                        "table",
                        SinkSettings.of(new SqlKind()).set(SqlKind.URL, url).set(SqlKind.TABLE, "lanes")))) {
            for (int i = 0; i < count; i++) {
                int number = i;
                graphema.logger("skerry.deck")
                        .log(i % 10 == 0 ? Level.ERROR : Level.INFO, message, null, f -> f.put("number", number));
            }
            assertTrue(graphema.flush(Duration.ofMinutes(1)));
        }
    }

    @Test
    void eventsAreFoundAndCounted() {
        assertEquals(0, run("find", "number >= 28", "--limit", "1", "--table", "lanes", "--in", url));
        assertTrue(output.contains("lane asked for  number=29"), output);
        assertTrue(error.contains("the newest 1 of 2 matching events, 30 read"), error);
        assertTrue(error.contains(" --table lanes"), error);

        assertEquals(0, run("tally", "level", "--as", "csv", "--table", "lanes", "--in", url));
        assertTrue(output.contains("info,27") && output.contains("error,3"), output);

        assertEquals(1, run("find", "level = fatal", "--table", "lanes", "--in", url));
        assertTrue(error.startsWith("no event matches; 30 read\n"), error);
    }

    @Test
    void addedRowsAreShown() throws IOException {
        ByteArrayOutputStream shown = new ByteArrayOutputStream();
        boolean[] isWritten = {false};
        stop = () -> {
            if (!isWritten[0]) {
                isWritten[0] = true;
                write(2, "lane closed");
            }
            return shown.toString(StandardCharsets.UTF_8).contains("lane closed");
        };
        assertEquals(
                0,
                run(shown, "watch", "level = error", "--for", "60s", "--before", "1", "--table", "lanes", "--in", url));
        assertTrue(shown.toString(StandardCharsets.UTF_8).contains("lane asked for  number=20"), shown.toString());
        assertEquals("1 new event\n", error);
    }

    @Test
    void aTableOfAnotherProgramIsRead() throws SQLException {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute(
                    "create table tickets (\"noted\" timestamp with time zone, \"sev\" text, \"what\" text, \"deck\" int)");
            statement.execute("insert into tickets values ('2026-05-15 06:12:00+00', 'ERR', 'ramp blocked', 2)");
        }
        String[] asked = {
            "find",
            "deck = 2",
            "--table",
            "tickets",
            "--map",
            "time=noted,level=sev,message=what",
            "--zone",
            "UTC",
            "--in",
            url
        };
        assertEquals(0, run(asked));
        assertTrue(output.contains("06:12:00.000 ERROR") && output.contains("ramp blocked  deck=2"), output);
    }

    @Test
    void aQuestionIsExplainedInsteadOfAnswered() {
        assertEquals(0, run("tally", "service", "level >= error", "--explain", "--table", "lanes", "--in", url));
        assertEquals("""
                2 parts; the source decides: level >= error; the executor decides: nothing
                select case when "weight" <> 1 then 1 else 0 end, "service", count(*) from lanes where "plain" and ("level" is not null and "severity" >= ?) group by case when "weight" <> 1 then 1 else 0 end, "service" with [17]
                select "number", "time", "nanos", "line" from lanes where not "plain"
                """, output);
        assertEquals(0, run("timeline", "--by", "level", "--explain", "--table", "lanes", "--in", url));
        assertTrue(
                output.contains(
                        "; then, if this is a long time, select case when \"weight\" <> 1 then 1 else 0 end, floor(extract(epoch from \"time\") / 1), \"level\""),
                output);
        assertEquals(0, run("trail", "4bf9", "--explain", "--in", logs.toString()));
        assertTrue(output.startsWith("read several times, first so: "), output);
    }

    @Test
    void whatCannotBeDoneIsReported() {
        misused(
                "graphema: --table: \"a;b\" is no name of a table: expected letters, digits and _, with a schema before a dot if need be\n",
                "find",
                "--table",
                "a;b",
                "--in",
                url);
        assertEquals(2, run("find", "--table", "other", "--in", url));
        assertTrue(error.startsWith("graphema: jdbc:h2:mem:"), error);
        assertEquals(2, run("find", "--in", "http://127.0.0.1:1,http://127.0.0.1:2"));
        assertTrue(error.contains("127.0.0.1:1") && error.contains("127.0.0.1:2"), error);
    }
}
