package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.lines.LineFiles;
import dev.graphema.lines.RandomLog;
import dev.graphema.lines.RandomQuestions;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Random questions have the same answers over a collector as over the files that were sent to it. */
class SameAsFilesTest {
    private static final int QUESTIONS = Integer.getInteger("questions", 200);
    private static final long SEED = Long.getLong("seed", 1);
    private static final int LINES = 400;
    private static final int QUESTIONS_OF_LOG = 100;

    @TempDir
    private Path folder;

    @Test
    void answersAreTheSame() throws IOException {
        int compared = 0;
        int rows = 0;
        for (int log = 0; compared < QUESTIONS; log++) {
            List<String> lines = RandomLog.lines(SEED * 1_000_000 + log, LINES);
            lines.removeIf(line -> line.contains("\"id\"")); // a store has each of them once
            String text = String.join("\n", lines) + "\n";
            Path file = Files.writeString(folder.resolve("log.jsonl"), text);
            EventSource files = LineFiles.at(List.of(file));
            try (Collector collector = Collectors.start(folder.resolve("store" + log))) {
                assertEquals(200, Collectors.post(collector, "/lines", text).statusCode());
                EventSource remote = RemoteSource.at(collector.address(), null);
                Random random = new Random(SEED + log);
                for (int i = 0; i < QUESTIONS_OF_LOG && compared < QUESTIONS; i++) {
                    Question<?> question = RandomQuestions.next(random);
                    List<String> expected = rows(question, files);
                    assertEquals(expected, rows(question, remote), "log " + log + ", " + question);
                    compared++;
                    rows += expected.isEmpty() ? 0 : 1;
                }
            }
        }
        System.out.println(
                compared + " questions to a collector, seed " + SEED + ": the same answers, " + rows + " not empty");
        assertTrue(rows > compared / 4, "answers with rows: " + rows);
    }

    private static <A extends Answer> List<String> rows(Question<A> question, EventSource source) throws IOException {
        return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
    }
}
