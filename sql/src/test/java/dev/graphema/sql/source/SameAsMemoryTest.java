package dev.graphema.sql.source;

import dev.graphema.lines.SameAnswers;
import dev.graphema.sql.WrittenTables;
import java.io.IOException;
import java.nio.file.Path;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Random questions have the same answers as over the events in memory. */
class SameAsMemoryTest {
    /** {@code -Dtables=1000} compares more of them, {@code -Dseed} other ones. */
    private static final int TABLES = Integer.getInteger("tables", 12);

    private static final long SEED = Long.getLong("seed", 0);

    @TempDir
    private Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    @Timeout(7200)
    void answersAreTheSame(String database) throws IOException {
        String url = WrittenTables.url(database);
        new SameAnswers(folder).compare("tables of " + database, TABLES, SEED, events -> {
            String table = WrittenTables.newName();
            WrittenTables.write(url, table, events);
            return SqlSource.of(url, null, null, table);
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void answersAboutFieldsAreTheSame(String database) throws IOException {
        String url = WrittenTables.url(database);
        new SameAnswers(folder).compareFields(events -> {
            String table = WrittenTables.newName();
            WrittenTables.write(url, table, events);
            return SqlSource.of(url, null, null, table);
        });
    }
}
