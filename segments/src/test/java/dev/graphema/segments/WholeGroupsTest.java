package dev.graphema.segments;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Name;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.Answer;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Groups whose lines all have the same names, of which most lines, or all, are counted together. */
class WholeGroupsTest {
    private static final int LINES = 70_000;

    @TempDir
    Path folder;

    private Path log;
    private Path segment;

    @BeforeEach
    void write() throws IOException {
        Random random = new Random(7);
        List<String> lines = new ArrayList<>();
        for (int i = 0; i < LINES; i++) {
            int level = random.nextInt(100);
            lines.add(
                    "{\"time\":\"2026-05-15T%02d:%02d:%02d.000000000Z\",\"level\":\"%s\",\"service\":\"%s\",\"message\":\"lane %d\","
                                    .formatted(
                                            i / 3600 % 24,
                                            i / 60 % 60,
                                            i % 60,
                                            level < 2 ? "error" : level < 4 ? "warn" : "info",
                                            List.of("deck", "gate", "booking").get(random.nextInt(3)),
                                            random.nextInt(3))
                            + "\"fields\":{\"wait_ms\":%d,\"passenger\":%d,\"lane\":\"A%d\",\"offset\":%d%s}%s}"
                                    .formatted(
                                            10 * random.nextInt(300),
                                            random.nextLong(),
                                            // One that occurs in the first group only.
                                            i == 5 ? 77 : random.nextInt(9),
                                            random.nextInt(5) - 1_000_000,
                                            i % 1_000 == 1
                                                    ? ",\"hatch\":\"H" + i / 1_000 % 7 + "\",\"depth\":" + i % 3
                                                    : "",
                                            i % 100 == 2 ? failure(i) : ""));
        }
        log = Files.write(folder.resolve("a.jsonl"), lines);
        segment = folder.resolve("a.gseg");
        WrittenSegments.write(segment, lines);
    }

    private static String failure(int number) {
        return ",\"failure\":{\"type\":\"skerry.%s\",\"message\":\"lane \\\"A%d\\\" not free\",\"frames\":[]}"
                .formatted(number % 3 == 0 ? "LaneException" : "GateException", number % 5);
    }

    @Test
    void whatFewLinesHaveIsThatOfTheLines() throws IOException {
        assertSame(Question.all().failures());
        assertSame(Question.all().counts("failure.type", "hatch"));
        assertSame(Question.where("failure.type exists").counts("failure.message"));
        assertSame(
                Question.where("failure.message = \"lane \\\"A2\\\" not free\"").newest(5));
        assertSame(Question.where("failure.type = skerry.GateException and level = error")
                .counts("service"));
        assertSame(Question.where("hatch = H3").newest(5));
        assertSame(Question.where("hatch missing").counts("hatch"));
        assertSame(Question.where("depth > 0").counts("depth", "hatch"));
        assertSame(statistics("depth", List.of("hatch")));
        assertSame(Question.where("hatch exists").contrastWith(Question.where("hatch missing")));
        assertSame(Question.where("failure.type exists").contrastWith(Question.where("failure.type missing")));
    }

    @Test
    void comparisonsAreThoseOfTheLines() throws IOException {
        assertSame(Question.where("level = error").contrastWith(Question.where("level != error")));
        assertSame(Question.where("level != error").contrastWith(Question.where("level = error")));
        assertSame(Question.where("lane != A3 and level < error").contrastWith(Question.where("lane = A3")));
        assertSame(Question.all().contrastWith(Question.where("offset = -1000000")));
    }

    @Test
    void countsAndStatisticsAreThoseOfTheLines() throws IOException {
        assertSame(Question.all().counts("lane"));
        assertSame(Question.all().counts("service", "lane", "level"));
        assertSame(Question.where("level != error").counts("service", "lane"));
        for (String measured : List.of("wait_ms", "offset", "passenger", "lane")) {
            for (List<String> names : List.of(List.<String>of(), List.of("service"), List.of("service", "lane"))) {
                assertSame(statistics(measured, names));
            }
        }
    }

    @Test
    void conditionsOnUsualValuesSelectAllButTheRareOnes() throws IOException {
        assertSame(Question.where("level != error").newest(5));
        assertSame(Question.where("level < warn").oldest(5));
        assertSame(Question.where("level >= warn and wait_ms > 2900").newest(5));
        assertSame(Question.where("not level = warn").counts("level"));
    }

    @Test
    void aFlippedBitIsReportedOrHasNoEffect() throws IOException {
        WrittenSegments.write(segment, Files.readAllLines(log).subList(0, 3_000));
        byte[] bytes = Files.readAllBytes(segment);
        List<Question<?>> questions = List.of(
                Question.where("level != error").contrastWith(Question.where("level = error")),
                Question.where("failure.type exists").counts("failure.message", "hatch"),
                statistics("wait_ms", List.of("service", "lane")));
        List<List<String>> expected = new ArrayList<>();
        for (Question<?> question : questions) {
            expected.add(rows(QueryExecutor.answer(question, SegmentFiles.at(List.of(segment)))));
        }
        Random random = new Random(11);
        int reported = 0;
        for (int i = 0; i < 300; i++) {
            byte[] flipped = bytes.clone();
            flipped[random.nextInt(bytes.length)] ^= (byte) (1 << random.nextInt(8));
            Files.write(segment, flipped);
            Answer answer = QueryExecutor.answer(questions.get(i % 3), SegmentFiles.at(List.of(segment)));
            boolean isReported = !answer.coverage().failures().isEmpty();
            assertTrue(isReported || rows(answer).equals(expected.get(i % 3)), "flip " + i);
            reported += isReported ? 1 : 0;
        }
        assertTrue(reported > 20, "reported " + reported);
    }

    private static List<String> rows(Answer answer) {
        return AnswerJson.rows(answer).toList();
    }

    private static Question<?> statistics(String measured, List<String> names) {
        return Question.all()
                .ask(new Ask.Counts(
                        names.stream().map(Name::of).toList(),
                        Name.of(measured),
                        List.of(BigDecimal.valueOf(50), BigDecimal.valueOf(95)),
                        false));
    }

    private void assertSame(Question<?> question) throws IOException {
        List<String> expected = rows(QueryExecutor.answer(question, LineFiles.at(List.of(log))));
        List<String> found = rows(QueryExecutor.answer(question, SegmentFiles.at(List.of(segment))));
        assertFalse(expected.isEmpty(), question.toString());
        assertEquals(expected, found, question.toString());
    }
}
