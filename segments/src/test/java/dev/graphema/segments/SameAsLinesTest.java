package dev.graphema.segments;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.lines.LineFiles;
import dev.graphema.lines.RandomLog;
import dev.graphema.lines.RandomQuestions;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.answer.Differences;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.segments.store.Store;
import dev.graphema.segments.store.StoreOptions;
import dev.graphema.segments.store.StoreSource;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Random lines come back byte by byte, and random questions have the same answers as over the lines themselves. */
class SameAsLinesTest {
    private static final int LOGS = Integer.getInteger("logs", 40);
    private static final long SEED = Long.getLong("seed", 0);
    private static final int LINES = 60;
    private static final int QUESTIONS = 12;

    @TempDir
    Path folder;

    @Test
    void answersAndLinesAreTheSame() throws IOException {
        int compared = 0;
        for (long seed = SEED; seed < SEED + LOGS; seed++) {
            List<String> lines = RandomLog.lines(seed, LINES);
            Path log = Files.writeString(folder.resolve("log.jsonl"), String.join("\n", lines) + "\n");
            Path segment = folder.resolve("log.gseg");
            WrittenSegments.write(segment, lines);
            ByteArrayOutputStream back = new ByteArrayOutputStream();
            assertEquals(LINES, SegmentLines.copy(segment, back));
            assertEquals(Files.readString(log), back.toString(StandardCharsets.UTF_8), "seed " + seed);
            assertEquals(List.of(), SegmentLines.damage(segment));

            Random random = new Random(seed);
            for (int i = 0; i < QUESTIONS; i++) {
                Question<?> question = RandomQuestions.next(random);
                List<String> expected = rows(question, LineFiles.at(List.of(log)));
                assertEquals(
                        expected, rows(question, SegmentFiles.at(List.of(segment))), "seed " + seed + ", " + question);
                compared += expected.isEmpty() ? 0 : 1;
            }
        }
        printed(LOGS * QUESTIONS, compared);
        assertTrue(compared > LOGS * QUESTIONS / 4, "answers with rows: " + compared);
    }

    /** A third of the lines is in a log, a third in a segment, and a third in a store, half of it not sealed yet. */
    @Test
    void answersOverMixturesAreTheSame() throws IOException {
        int compared = 0;
        for (long seed = SEED; seed < SEED + LOGS; seed++) {
            List<String> lines = RandomLog.lines(1_000_000 + seed, LINES);
            lines.removeIf(line -> line.contains("\"id\"")); // a store has each of them once
            int third = lines.size() / 3;
            List<Path> logs = new ArrayList<>();
            for (int i = 0; i < 3; i++) {
                List<String> part = lines.subList(i * third, i == 2 ? lines.size() : (i + 1) * third);
                logs.add(Files.writeString(folder.resolve(i + ".jsonl"), text(part)));
            }
            Path segment = folder.resolve("second.gseg");
            WrittenSegments.write(segment, lines.subList(third, 2 * third));
            Path folderOfStore = folder.resolve("store" + seed);
            int half = third * 5 / 2;
            try (Store store = Store.open(folderOfStore, StoreOptions.usual(problem -> {
                throw new AssertionError(problem);
            }))) {
                store.append(text(lines.subList(2 * third, half)).getBytes(StandardCharsets.UTF_8));
                store.tidy();
                store.append(text(lines.subList(half, lines.size())).getBytes(StandardCharsets.UTF_8));
            }
            EventSource mixture = new SeveralSources(List.of(
                    LineFiles.at(logs.subList(0, 1)),
                    SegmentFiles.at(List.of(segment)),
                    StoreSource.at(folderOfStore)));

            Random random = new Random(seed);
            for (int i = 0; i < QUESTIONS; i++) {
                Question<?> question = RandomQuestions.next(random);
                List<String> expected = rows(question, LineFiles.at(logs));
                assertEquals(expected, rows(question, mixture), "seed " + seed + ", " + question);
                compared += expected.isEmpty() ? 0 : 1;
            }
        }
        printed(LOGS * QUESTIONS, compared);
        assertTrue(compared > LOGS * QUESTIONS / 4, "answers with rows: " + compared);
    }

    @Test
    void comparisonsAreTheSame() throws IOException {
        int differences = 0;
        for (long seed = SEED; seed < SEED + LOGS / 4; seed++) {
            List<String> lines = RandomLog.lines(2_000_000 + seed, LINES);
            Path log = Files.writeString(folder.resolve("compared.jsonl"), text(lines));
            Path segment = folder.resolve("compared.gseg");
            WrittenSegments.write(segment, lines);
            for (String condition : RandomQuestions.CONDITIONS) {
                Question<Differences> question = Question.where(condition).contrastWith(Question.where("level = info"));
                Differences expected = QueryExecutor.answer(question, LineFiles.at(List.of(log)));
                Differences found = QueryExecutor.answer(question, SegmentFiles.at(List.of(segment)));
                assertEquals(expected.differences(), found.differences(), "seed " + seed + ", " + condition);
                assertEquals(expected.tooManyValues(), found.tooManyValues());
                assertEquals(expected.events(), found.events());
                assertEquals(expected.others(), found.others());
                differences += found.differences().size();
            }
        }
        printed(LOGS / 4 * RandomQuestions.CONDITIONS.size(), differences);
        assertTrue(differences > LOGS, "differences: " + differences);
    }

    private static void printed(int questions, int rows) {
        System.out.println(
                questions + " questions over random logs, seed " + SEED + ": the same answers, " + rows + " not empty");
    }

    private static String text(List<String> lines) {
        return String.join("\n", lines) + "\n";
    }

    private static <A extends Answer> List<String> rows(Question<A> question, EventSource source) throws IOException {
        return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
    }
}
