package dev.graphema.sql;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.batch.BatchSink;
import dev.graphema.batch.EventBatch;
import dev.graphema.settings.SinkSettings;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.math.BigDecimal;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Against a real PostgreSQL server and a real H2. */
class SqlDeliveryTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);

    private static EmbeddedPostgres server;

    @TempDir
    Path folder;

    @BeforeAll
    static void startServer() throws IOException {
        server = EmbeddedPostgres.start();
    }

    @AfterAll
    static void stopServer() throws IOException {
        server.close();
    }

    static String url(String database) {
        return database.equals("h2")
                ? "jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1"
                : server.getJdbcUrl("postgres", "postgres");
    }

    @ParameterizedTest
    @ValueSource(strings = {"postgresql", "h2"})
    void theTableIsMadeAndEveryAttributeHasItsColumn(String database) throws SQLException {
        String url = url(database);
        String table = "made_" + database;
        try (Graphema graphema = start(url, table)) {
            Logger log = graphema.logger("skerry.deck.Lanes");
            try (Operation operation = log.operation("reserve")) {
                log.error(
                        "lane not free",
                        new IllegalStateException("no lane"),
                        f -> f.put("lane", "A3").put("wait_ms", 250).group("passenger", g -> g.put("seats", 2)));
                operation.succeed();
            }
            assertTrue(graphema.flush(LIMIT));
            List<Map<String, Object>> rows =
                    rows(url, "select * from " + table + " where \"message\" = 'lane not free'");
            Map<String, Object> row = rows.get(0);
            assertEquals("error", row.get("level"));
            assertEquals(17, ((Number) row.get("severity")).intValue());
            assertEquals("deck", row.get("service"));
            assertEquals("deck-2", row.get("instance"));
            assertEquals("skerry.deck.Lanes", row.get("logger"));
            assertTrue(row.get("trace").toString().matches("[0-9a-f]{32}"));
            assertTrue(row.get("id").toString().matches("[0-9a-f]{16}-1"));
            assertEquals(16, row.get("fingerprint").toString().length());
            assertEquals(2, rows(url, "select * from " + table).size());
        }
        try (Graphema graphema = start(url, table)) {
            graphema.logger("skerry.deck").info("again");
            assertTrue(graphema.flush(LIMIT));
        }
        assertEquals(3, rows(url, "select * from " + table).size(), "the table that is there is used");
    }

    @Test
    void fieldsCanBeAskedForInPostgresql() throws SQLException {
        String url = url("postgresql");
        try (Graphema graphema = start(url, "asked")) {
            for (int i = 0; i < 1_000; i++) {
                int number = i;
                graphema.logger("skerry.deck")
                        .info(
                                "lane taken",
                                f -> f.put("lock_wait_ms", number).group("passenger", g -> g.put("seats", number % 5)));
            }
            assertTrue(graphema.flush(LIMIT));
        }
        assertEquals(
                "9",
                rows(url, "select count(*) c from asked where (fields->>'lock_wait_ms')::int > 990")
                        .get(0)
                        .get("c")
                        .toString());
        assertEquals(
                "200",
                rows(url, "select count(*) c from asked where fields->'passenger'->>'seats' = '3'")
                        .get(0)
                        .get("c")
                        .toString());
    }

    @ParameterizedTest
    @ValueSource(strings = {"postgresql", "h2"})
    void hostileTextsAndNumbersAreStored(String database) throws SQLException {
        String url = url(database);
        String table = "hostile_" + database;
        try (Graphema graphema = start(url, table)) {
            Logger log = graphema.logger("skerry.deck");
            log.info("nul \u0000 and half \uD800 and '); drop table x; --");
            log.info(
                    "in fields",
                    f -> f.put("a\u0000b", "c\u0000d\uDC00 \\u0000 \\").put("e", "⚓"));
            log.info(
                    "huge",
                    f -> f.put("x", new BigDecimal("1E+999999"))
                            .group("y", g -> g.put("z", List.of(new BigDecimal("1E-999999")))));
            log.info("after");
            assertTrue(graphema.flush(LIMIT));
            List<String> messages = rows(url, "select \"message\" from " + table + " order by \"sequence\"").stream()
                    .map(row -> row.get("message").toString())
                    .toList();
            assertTrue(messages.contains("nul \uFFFD and half \uFFFD and '); drop table x; --"), messages::toString);
            assertTrue(messages.contains("in fields"));
            assertTrue(messages.contains("after"));
            assertTrue(messages.contains("huge"));
            assertEquals(Map.of(), graphema.lost().getOrDefault("table", Map.of()));
            List<?> lines = rows(url, "select \"line\", \"plain\" from " + table + " where \"message\" = 'huge'");
            assertTrue(lines.toString().contains("\"x\":1E+999999,\"y\":{\"z\":[1E-999999]}"), lines::toString);
            assertTrue(lines.toString().contains("plain=false"), lines::toString);
        }
    }

    @Test
    void anEventThatComesTwiceIsInTheTableOnce() throws SQLException, IOException {
        for (String database : List.of("postgresql", "h2")) {
            String url = url(database);
            SqlTable table = new SqlTable(url, null, null, "twice", LIMIT);
            var event = new dev.graphema.event.Draft()
                    .time(1)
                    .run("8000000000000001")
                    .sequence(1)
                    .message("once")
                    .finish();
            table.send(EventBatch.of(event));
            table.send(EventBatch.of(event, event));
            table.close();
            assertEquals(1, rows(url, "select * from twice").size());
        }
    }

    @Test
    void aTableWithoutAColumnIsReportedAndEventsWaitUntilItIsFixed() throws SQLException {
        String url = url("postgresql");
        execute(url, "create table replaced (id varchar(40) primary key, time timestamptz)");
        try (Graphema graphema = start(url, "replaced")) {
            graphema.logger("skerry.deck").info("seat held");
            assertTrue(graphema.flush(LIMIT), "in the spool");
            execute(url, "drop table replaced");
            await().atMost(LIMIT).until(() -> count(url, "replaced") == 1);
        }
    }

    @Test
    void aConnectionThatBreaksIsMadeAgain() throws SQLException {
        String url = url("postgresql");
        try (Graphema graphema = start(url, "broken")) {
            emit(graphema, 0, 10);
            graphema.flush(LIMIT);
            execute(url, "select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'graphema'");
            emit(graphema, 10, 20);
            graphema.flush(LIMIT);
            await().atMost(LIMIT).until(() -> count(url, "broken") == 20);
            assertEquals(numbers(0, 20), numbersIn(url, "broken"));
            assertEquals(Map.of(), graphema.lost().get("table"));
        }
    }

    @Test
    void sessionsThatEndAgainAndAgainCostNothingAndDoubleNothing() throws SQLException {
        String url = url("postgresql");
        try (Graphema graphema = start(url, "ended")) {
            for (int round = 0; round < 20; round++) {
                emit(graphema, round * 50, round * 50 + 50);
                if (round % 4 == 3) {
                    graphema.flush(LIMIT);
                }
                execute(
                        url,
                        "select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'graphema'");
            }
            await().atMost(LIMIT).until(() -> count(url, "ended") == 1000);
            assertEquals(numbers(0, 1000), numbersIn(url, "ended"));
            assertEquals(Map.of(), graphema.lost().get("table"));
        }
    }

    @Test
    void aDatabaseThatWasAwayForTheWholeRunGetsEverythingAfterARestart() throws Exception {
        int port;
        try (ServerSocket socket = new ServerSocket(0)) {
            port = socket.getLocalPort();
        }
        String url = "jdbc:postgresql://localhost:" + port + "/postgres?user=postgres";
        try (Graphema graphema = start(url, "away")) {
            emit(graphema, 0, 30);
            assertTrue(graphema.flush(LIMIT));
        }
        try (EmbeddedPostgres late = EmbeddedPostgres.builder().setPort(port).start();
                Graphema graphema = start(url, "away")) {
            emit(graphema, 30, 40);
            await().atMost(LIMIT).until(() -> count(url, "away") == 40);
            assertEquals(numbers(0, 40), numbersIn(url, "away"));
        }
    }

    @Test
    void messagesNeverReportThePasswordInTheUrl() {
        SqlTable table = new SqlTable("jdbc:postgresql://h/d?password=anchor", null, null, "events", LIMIT);
        assertEquals("jdbc:postgresql: table events", table.toString());
        IllegalArgumentException e = org.junit.jupiter.api.Assertions.assertThrows(
                IllegalArgumentException.class, () -> SqlKind.URL.read("postgresql://h/d?password=anchor"));
        assertTrue(!e.getMessage().contains("anchor"), e.getMessage());
    }

    private Graphema start(String url, String table) {
        return Graphema.isolated(settings -> settings.service("deck")
                .instance("deck-2")
                .spoolPath(folder.resolve("spool"))
                .sink(
                        "table",
                        SinkSettings.of(new SqlKind())
                                .set(SqlKind.URL, url)
                                .set(SqlKind.TABLE, table)
                                .set(BatchSink.BATCH_WAIT, Duration.ofMillis(20))
                                .set(BatchSink.RETRY_FIRST, Duration.ofMillis(20))
                                .set(BatchSink.RETRY_LONGEST, Duration.ofMillis(200))));
    }

    private static void emit(Graphema graphema, int from, int to) {
        for (int i = from; i < to; i++) {
            int number = i;
            graphema.logger("skerry.deck").info("seat held", f -> f.put("number", number));
        }
    }

    private static List<Integer> numbers(int from, int to) {
        return IntStream.range(from, to).boxed().toList();
    }

    private static List<Integer> numbersIn(String url, String table) throws SQLException {
        return rows(url, "select fields->>'number' n from " + table + " order by time, sequence").stream()
                .map(row -> Integer.parseInt(row.get("n").toString()))
                .sorted()
                .toList();
    }

    private static int count(String url, String table) {
        try {
            return rows(url, "select * from " + table).size();
        } catch (SQLException e) {
            return -1; // not there yet
        }
    }

    private static void execute(String url, String sql) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private static List<Map<String, Object>> rows(String url, String sql) throws SQLException {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement();
                ResultSet found = statement.executeQuery(sql)) {
            List<Map<String, Object>> rows = new ArrayList<>();
            while (found.next()) {
                Map<String, Object> row = new java.util.HashMap<>();
                for (int i = 1; i <= found.getMetaData().getColumnCount(); i++) {
                    row.put(
                            found.getMetaData().getColumnLabel(i).toLowerCase(java.util.Locale.ROOT),
                            found.getObject(i));
                }
                rows.add(row);
            }
            return rows;
        }
    }
}
