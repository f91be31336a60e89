package dev.graphema.sql.source;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.EventSelection;
import dev.graphema.query.Question;
import dev.graphema.query.Window;
import dev.graphema.query.answer.EventContext;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.sql.WrittenTables;
import java.io.IOException;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables of other programs as a source. */
class OtherTableTest {
    private final String table = WrittenTables.newName();
    private String url;

    private void execute(String database, String... statements) throws IOException, SQLException {
        url = WrittenTables.url(database);
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String each : statements) {
                statement.execute(each.replace("TABLE_NAME", table));
            }
        }
    }

    private EventSource lanes(String database) throws IOException, SQLException {
        execute(
                database,
                "create table TABLE_NAME (\"created_at\" timestamp with time zone, \"severity\" varchar(10), \"msg\" text,"
                        + " \"lane\" varchar(10), \"wait_ms\" numeric(10, 2), \"free\" boolean, \"load\" double precision,"
                        + " \"odd \"\"name\" integer, \"details\" json)",
                "insert into TABLE_NAME values ('2026-05-15 07:31:02.5+01:00', 'WARNING', 'lane not free', 'A2', 250.5, false, 0.5, 7, "
                        + (database.equals("h2") ? "json '{\"seats\": 2}'" : "'{\"seats\": 2}'") + ")",
                "insert into TABLE_NAME values ('2026-05-15 06:40:00+00', 'INFO', 'lane taken', 'B1', 3, true, null, null, null)",
                "insert into TABLE_NAME values (null, 'INFO', 'without a time', 'a2', null, null, null, null, null)");
        return SqlSource.of(url, null, null, table);
    }

    private static List<Event> oldest(EventSelection selection, EventSource source) throws IOException {
        return QueryExecutor.answer(selection.oldest(10), source).events();
    }

    private static List<String> messages(String condition, EventSource source) throws IOException {
        return oldest(Question.where(condition), source).stream()
                .map(Event::message)
                .sorted()
                .toList();
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void rowsAreEventsByTheCommonMeaningOfTheirColumns(String database) throws Exception {
        EventSource source = lanes(database);
        Event event =
                oldest(Question.where("message = \"lane not free\""), source).get(0);
        assertEquals(Instant.parse("2026-05-15T06:31:02.5Z"), event.time());
        assertEquals(Level.WARN, event.level());
        assertEquals(
                new BigDecimal("250.50"),
                new BigDecimal(event.fields().get("wait_ms").toString()).setScale(2));
        assertEquals(false, event.fields().get("free"));
        assertEquals("7", event.fields().get("odd \"name").toString());
        assertEquals("2", event.fields().get("details.seats").toString());

        assertEquals(List.of("lane not free"), messages("wait_ms > 200", source));
        assertEquals(List.of("lane not free"), messages("wait_ms > 200ms and lane = A2", source));
        assertEquals(List.of("lane taken"), messages("free = true", source));
        assertEquals(List.of("lane not free", "without a time"), messages("lane has a2", source));
        assertEquals(List.of("lane taken", "without a time"), messages("not wait_ms > 200", source));
        assertEquals(List.of("lane taken"), messages("level = info and lane exists and lane != a2", source));
        assertEquals(List.of("without a time"), messages("lane = a2", source));
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void theDatabaseLeavesOutWhatCannotMatch(String database) throws Exception {
        EventSource source = lanes(database);
        assertEquals(
                "1 part; the source decides: nothing; the executor decides: lane = A2 and wait_ms > 200\nselect * from "
                        + table
                        + " where (\"lane\" is not null and \"lane\" = ?) and (\"wait_ms\" is not null and \"wait_ms\" >= ?) with [A2, 200]",
                QueryExecutor.explain(
                        Question.where("lane = A2 and wait_ms > 200").newest(5), source));
        EventSelection half = Question.all()
                .during(Window.between(Instant.parse("2026-05-15T06:35:00Z"), Instant.parse("2026-05-15T07:00:00Z")));
        assertEquals(
                List.of("lane taken"),
                oldest(half, source).stream().map(Event::message).toList());
        assertTrue(
                QueryExecutor.explain(half.newest(5), source)
                        .contains("\"created_at\" is null or (\"created_at\" >= ? and"),
                QueryExecutor.explain(half.newest(5), source));
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void eventsAreReadInOrderAndHaveAContext(String database) throws Exception {
        EventSource source = lanes(database);
        List<String> inOrder = new ArrayList<>();
        QueryExecutor.read(Question.where("lane exists"), source, Control.NONE, event -> inOrder.add(event.message()));
        assertEquals(3, inOrder.size());
        EventContext context = QueryExecutor.answer(Question.all().contextOf("message = \"lane taken\"", 1), source);
        assertEquals("lane not free", context.before().get(0).message());
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void columnsAreNamedIfTheirNamesAreNotKnown(String database) throws Exception {
        execute(
                database,
                "create table TABLE_NAME (\"noted\" timestamp, \"closed\" timestamp, \"what\" text, \"number\" text)",
                "insert into TABLE_NAME values ('2026-05-15 07:00:00', null, 'gate open', 'twelve')");
        SqlSource source = SqlSource.of(url, null, null, table);
        String problem = assertThrows(
                        IOException.class,
                        () -> QueryExecutor.read(Question.all(), source, Control.NONE, event -> true))
                .getMessage();
        assertTrue(
                problem.endsWith(
                        "it is not known which column has the time: name it with --map time=NAME, expected one of noted, closed"),
                problem);
        EventSource named = source.shaped(LineShape.USUAL.mapped("time=noted,message=what"));
        Event event = oldest(Question.where("number = twelve and not number > 11"), named)
                .get(0);
        assertEquals(Instant.parse("2026-05-15T07:00:00Z"), event.time());
        assertEquals("gate open", event.message());
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void aTableMayHaveManyColumns(String database) throws Exception {
        String columns = IntStream.range(0, 1_500)
                .mapToObj(i -> "\"c" + i + "\" integer")
                .collect(Collectors.joining(", "));
        execute(
                database,
                "create table TABLE_NAME (\"time\" timestamp with time zone, " + columns + ")",
                "insert into TABLE_NAME (\"time\", \"c1499\") values ('2026-05-15 06:00:00+00', 5)");
        assertEquals(
                "5",
                oldest(Question.where("c1499 = 5"), SqlSource.of(url, null, null, table))
                        .get(0)
                        .fields()
                        .get("c1499")
                        .toString());
    }
}
