package dev.graphema.sql.source;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.RandomLog;
import dev.graphema.lines.RandomQuestions;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.MemorySource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.sql.WrittenTables;
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Random questions have the same answers as over the events in memory. */
class SameAsMemoryTest {
    /** {@code -Dtables=1000} compares more of them, {@code -Dseed} other ones. */
    private static final int TABLES = Integer.getInteger("tables", 12);

    private static final long SEED = Long.getLong("seed", 0);
    private static final int LINES = 60;
    private static final int QUESTIONS = 25;

    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(strings = {"h2", "postgresql"})
    void answersAreTheSame(String database) throws IOException {
        int compared = 0;
        String url = WrittenTables.url(database);
        for (long seed = SEED; seed < SEED + TABLES; seed++) {
            List<Event> events = events(seed);
            String table = WrittenTables.newName();
            WrittenTables.write(url, table, events);
            EventSource memory = new MemorySource(events);
            EventSource source = SqlSource.of(url, null, null, table);
            Random random = new Random(seed);
            for (int i = 0; i < QUESTIONS; i++) {
                Question<?> question = RandomQuestions.next(random);
                List<String> expected = rows(question, memory);
                List<String> found = rows(question, source);
                for (int row = 0; row < Math.min(expected.size(), found.size()); row++) {
                    assertEquals(expected.get(row), found.get(row), "seed " + seed + ", row " + row + ", " + question);
                }
                assertEquals(expected.size(), found.size(), "seed " + seed + ", " + question);
                compared += expected.isEmpty() ? 0 : 1;
            }
        }
        System.out.println(TABLES * QUESTIONS + " questions over tables of " + database + ", seed " + SEED
                + ": the same answers, " + compared + " not empty");
        assertTrue(compared > TABLES * QUESTIONS / 4, "answers with rows: " + compared);
    }

    private List<Event> events(long seed) throws IOException {
        List<String> lines = RandomLog.lines(seed, LINES);
        lines.removeIf(line -> line.contains("\"id\"")); // a table has each of them once
        Utf8Buffer written = new Utf8Buffer(4096);
        read(String.join("\n", lines) + "\n").forEach(event -> new JsonLines().write(event, written));
        return read(written.toString()); // what damaged and foreign lines are in Graphema JSON
    }

    private List<Event> read(String lines) throws IOException {
        Path log = Files.writeString(folder.resolve("log.jsonl"), lines);
        List<Event> events = new ArrayList<>();
        QueryExecutor.read(Question.all(), LineFiles.at(List.of(log)), Control.NONE, events::add);
        return events;
    }

    private static <A extends Answer> List<String> rows(Question<A> question, EventSource source) throws IOException {
        return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
    }
}
