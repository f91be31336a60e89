package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
import dev.graphema.query.Ask;
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

/** Asks sources random questions, which must have the same answers as over the events in memory. */
public final class SameAnswers {
    private static final int LINES = 60;
    private static final int QUESTIONS = 25;

    private static final List<String> VALUES = List.of(
            "250",
            "251",
            "250.0",
            "250.5",
            "0.1",
            "0.10000000000000001",
            "-0.0",
            "1.0E10",
            "10000000000",
            "1.0E-5",
            "9007199254740993",
            "9007199254740992",
            "123456789012345678901234567890",
            "1E400",
            "1E99999",
            "-1E-99999",
            "\"250\"",
            "\"260.5\"",
            "\"250ms\"",
            "\"PT0.26S\"",
            "\"PT\"",
            "\"NaN\"",
            "\"A\\u0000B\"",
            "\"A\\ufffdB\"",
            "\"\\ud800\"",
            "\"it's \\\"250\\\" %_!\"",
            "\"\"",
            "true",
            "null",
            "[251,\"it\"]",
            "[]",
            "{\"wait_ms\":251}");

    private static final Ask.Counts MEASURED =
            new Ask.Counts(List.of(Name.of("level")), Name.of("wait_ms"), Ask.Counts.USUAL_PERCENTILES);

    private static final List<String> CONDITIONS_ON_FIELDS = List.of(
            "",
            "wait_ms exists",
            "wait_ms missing",
            "wait_ms > 250",
            "wait_ms >= 250 and wait_ms <= 250.5",
            "not wait_ms > 250",
            "wait_ms != 250",
            "wait_ms > 9007199254740992",
            "wait_ms = 9007199254740993",
            "wait_ms = 0.1",
            "wait_ms < 0.10000000000000001",
            "wait_ms = \"250\"",
            "wait_ms > 250ms",
            "wait_ms = PT0.26S",
            "wait_ms = true",
            "wait_ms = null",
            "wait_ms has \"it's\"",
            "wait_ms starts it or wait_ms = 251",
            "wait_ms ends \"%_!\"",
            "wait_ms = \"\"",
            "wait_ms = \"A\u0000B\"",
            "wait_ms = \"A\ufffdB\"",
            "wait_ms starts \"A\ufffd\"",
            "wait_ms > a",
            "wait_ms matches \"^it\"",
            "Route's = 1 and wait_ms > 250");

    private final Path folder;

    /** @param folder for files */
    public SameAnswers(Path folder) {
        this.folder = folder;
    }

    /** Creates a source that has the given events. */
    public interface Creation {
        EventSource source(List<Event> events) throws IOException;
    }

    /**
     * Compares answers, for as many sources as given.
     *
     * @param seed of the first one
     * @param kind of the sources, as it is printed
     */
    public void compare(String kind, int sources, long seed, Creation creation) throws IOException {
        int compared = 0;
        for (long each = seed; each < seed + sources; each++) {
            List<Event> events = events(each);
            EventSource memory = new MemorySource(events);
            EventSource source = creation.source(events);
            Random random = new Random(each);
            for (int i = 0; i < QUESTIONS; i++) {
                Question<?> question = RandomQuestions.next(random);
                List<String> expected = rows(question, memory);
                List<String> found = rows(question, source);
                for (int row = 0; row < Math.min(expected.size(), found.size()); row++) {
                    assertEquals(expected.get(row), found.get(row), "seed " + each + ", row " + row + ", " + question);
                }
                assertEquals(expected.size(), found.size(), "seed " + each + ", " + question);
                compared += expected.isEmpty() ? 0 : 1;
            }
        }
        System.out.println(sources * QUESTIONS + " questions over " + kind + ", seed " + seed + ": the same answers, "
                + compared + " not empty");
        assertTrue(compared > sources * QUESTIONS / 4, "answers with rows: " + compared);
    }

    /** Asks about fields with values of all types, whole numbers that are no doubles, and texts that look like numbers and durations. */
    public void compareFields(Creation creation) throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < VALUES.size(); i++) {
            lines.append(
                    "{\"time\":\"2026-05-15T06:%02d:00Z\",\"level\":\"info\",\"message\":\"request\",\"fields\":{\"wait_ms\":%s,\"Route's\":1}}\n"
                            .formatted(i, VALUES.get(i)));
        }
        lines.append("{\"time\":\"2026-05-15T06:59:00Z\",\"message\":\"without\"}\n");
        List<Event> events = written(lines.toString());
        EventSource memory = new MemorySource(events);
        EventSource source = creation.source(events);
        for (String condition : CONDITIONS_ON_FIELDS) {
            for (Question<?> question : List.of(
                    Question.where(condition).oldest(100),
                    Question.where(condition).oldest(2),
                    Question.where(condition).counts("wait_ms"),
                    Question.where(condition).ask(MEASURED))) {
                assertEquals(rows(question, memory), rows(question, source), question.toString());
            }
        }
    }

    private List<Event> events(long seed) throws IOException {
        List<String> lines = RandomLog.lines(seed, LINES);
        lines.removeIf(line -> line.contains("\"id\"")); // most sources have each of them once
        return written(String.join("\n", lines) + "\n");
    }

    /** Returns what damaged and foreign lines are in Graphema JSON. */
    private List<Event> written(String lines) throws IOException {
        Utf8Buffer written = new Utf8Buffer(4096);
        read(lines).forEach(event -> new JsonLines().write(event, written));
        return read(written.toString());
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
