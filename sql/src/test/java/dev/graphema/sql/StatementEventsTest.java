package dev.graphema.sql;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.graphema.Graphema;
import dev.graphema.Scope;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.sink.MemorySink;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.UUID;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class StatementEventsTest {
    private final MemorySink sink = new MemorySink();
    private final Graphema graphema =
            Graphema.isolated(s -> s.level(Level.DEBUG).sink("memory", sink));
    private Connection connection;

    @BeforeEach
    void connect() throws SQLException {
        JdbcDataSource database = new JdbcDataSource();
        database.setURL("jdbc:h2:mem:" + UUID.randomUUID() + ";DB_CLOSE_DELAY=-1");
        try (Connection plain = database.getConnection();
                Statement statement = plain.createStatement()) {
            statement.execute("create table lanes (name varchar(10) primary key, length double)");
        }
        connection = source(database, Duration.ofHours(1)).getConnection();
    }

    @AfterEach
    void end() throws SQLException {
        connection.close();
        graphema.close();
    }

    private DataSource source(DataSource database, Duration slow) {
        return StatementEvents.of(database, graphema.logger("skerry.deck"), slow);
    }

    private void execute(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    private Event single() {
        assertTrue(graphema.flush(Duration.ofMinutes(1)));
        List<Event> events = sink.events();
        assertEquals(1, events.size(), events.toString());
        return events.get(0);
    }

    @Test
    void aStatementIsLoggedWithoutItsValuesInTheCurrentTrace() throws SQLException {
        try (Scope scope = graphema.begin();
                PreparedStatement insert = connection.prepareStatement("insert into lanes values (?, ?)")) {
            insert.setString(1, "secret");
            insert.setDouble(2, 12.5);
            assertEquals(1, insert.executeUpdate());
            assertSame(connection, insert.getConnection());
        }
        Event event = single();
        assertEquals("statement", event.message());
        assertEquals(Level.DEBUG, event.level());
        assertEquals("insert into lanes values (?, ?)", event.fields().get("statement"));
        assertEquals(1L, event.fields().get("rows"));
        assertTrue(event.fields().get("elapsed") instanceof Duration);
        assertTrue(event.trace() != null);
        assertFalse(event.toString().contains("secret"));
    }

    @Test
    void batchesAndQueriesAreLogged() throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.addBatch("insert into lanes values ('A3', 12.5)");
            statement.addBatch("insert into lanes values ('B2', 9.0)");
            statement.executeBatch();
            statement.executeQuery("select * from lanes where length > 10.5").close();
        }
        assertTrue(graphema.flush(Duration.ofMinutes(1)));
        assertEquals(
                "insert into lanes values (?, ?)", sink.events().get(0).fields().get("statement"));
        assertEquals(2L, sink.events().get(0).fields().get("rows"));
        assertEquals(
                "select * from lanes where length > ?",
                sink.events().get(1).fields().get("statement"));
        assertNull(sink.events().get(1).fields().get("rows"));
    }

    @Test
    void aFailedStatementIsAnErrorAndItsExceptionIsPassedOn() {
        assertThrows(SQLException.class, () -> execute("select * from gates where name = 'gate-2'"));
        Event event = single();
        assertEquals(Level.ERROR, event.level());
        assertEquals("select * from gates where name = ?", event.fields().get("statement"));
        assertTrue(event.failure().type().contains("SQL"), event.failure().type());
    }

    @Test
    void aSlowStatementIsAWarning() throws SQLException {
        Statement statement = mock(Statement.class);
        Connection plain = mock(Connection.class);
        DataSource database = mock(DataSource.class);
        when(database.getConnection()).thenReturn(plain);
        when(plain.createStatement()).thenReturn(statement);
        when(statement.executeLargeUpdate(anyString())).thenReturn(7L);
        source(database, Duration.ofNanos(1)).getConnection().createStatement().executeLargeUpdate("delete from lanes");
        assertEquals(Level.WARN, single().level());
        assertEquals(true, single().fields().get("slow"));
        assertEquals(7L, single().fields().get("rows"));
        assertThrows(IllegalArgumentException.class, () -> source(database, Duration.ZERO));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '~', textBlock = """
            select 1                                       | select ?
            select a1, 1.5e-3 from t2 where n='it''s' or 1 | select a1, ? from t2 where n=? or ?
            select "it's 1" from `t 2`                     | select "it's 1" from `t 2`
            do $body$ secret '1' $body$ x                  | do ? x
            select $$a$$, $1                               | select ?, $?
            select 'open                                   | select ?
            where x = 0xFF and y = -7                      | where x = ? and y = -?
            """)
    void literalsAreReplaced(String statement, String text) {
        assertEquals(text, SqlText.withoutValues(statement));
    }

    @Test
    void hostileStatementsTakeLinearTime() {
        for (String piece : List.of("'", "$", "$a", "1e-", "\"", "a$")) {
            assertTrue(SqlText.withoutValues(piece.repeat(200_000)).length() <= 800_000);
        }
    }
}
