package dev.graphema.spark;

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
import dev.graphema.text.Utf8Buffer;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Random questions have the same answers as over the events in memory. */
class SameAsMemoryTest {
    /** {@code -Dtables=20} compares more lakes, {@code -Dseed} other ones. */
    private static final int LAKES = Integer.getInteger("tables", 2);

    private static final long SEED = Long.getLong("seed", 0);
    private static final int LINES = 60;
    private static final int QUESTIONS = 25;

    @TempDir
    private Path folder;

    @Test
    @Timeout(3600)
    void answersAreTheSame() throws IOException {
        int compared = 0;
        for (long seed = SEED; seed < SEED + LAKES; seed++) {
            List<Event> events = events(seed);
            Lake lake = Lake.create(
                    Sessions.local(), folder.resolve("lake-" + seed).toString(), List.of("lock_wait_ms", "route"));
            Sessions.fill(lake, "all", events);
            EventSource memory = new MemorySource(events);
            EventSource source = LakeSource.of(lake);
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
        System.out.println(LAKES * QUESTIONS + " questions over lakes, seed " + SEED + ": the same answers, " + compared
                + " not empty");
        assertTrue(compared > LAKES * QUESTIONS / 4, "answers with rows: " + compared);
    }

    private List<Event> events(long seed) throws IOException {
        List<String> lines = RandomLog.lines(seed, LINES);
        lines.removeIf(line -> line.contains("\"id\"")); // a lake has each of them once
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
