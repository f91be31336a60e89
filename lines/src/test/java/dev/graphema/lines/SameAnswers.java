package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.format.JsonLines;
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

    private List<Event> events(long seed) throws IOException {
        List<String> lines = RandomLog.lines(seed, LINES);
        lines.removeIf(line -> line.contains("\"id\"")); // most sources have each of them once
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
