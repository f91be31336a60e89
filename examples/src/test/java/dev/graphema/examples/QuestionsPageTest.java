package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.LineFiles;
import dev.graphema.query.Ask;
import dev.graphema.query.Question;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.CoverageBuilder;
import dev.graphema.query.source.EventRows;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.Part;
import dev.graphema.query.source.Plan;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.query.source.Scan;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** Runs every example of docs/questions.md, and compares its table of keys with written answers. */
class QuestionsPageTest {
    private static final Path PAGE = Path.of("../docs/questions.md");
    private static final Path day = Path.of("day");

    /** What is below these keys is data: events, and values by name. */
    private static final Set<String> DATA = Set.of(
            "rows[].by",
            "rows[].events[]",
            "rows[].example",
            "rows[].before[]",
            "rows[].event",
            "rows[].after[]",
            "rows[].clocks_ahead",
            "rows[].measured");

    @Test
    void everyBlockOfThePageIsTested() throws IOException {
        PageBlocks.areIn(PAGE, QuestionsPageTest.class, 3);
    }

    @Test
    void ask() throws IOException {
        // example: ask
        EventSource logs = LineFiles.at(List.of(day)); // files, and folders with all log files below
        FoundEvents failed = QueryExecutor.answer(
                Question.where("level >= error and service = booking").newest(5), logs);
        CountTable waits =
                QueryExecutor.answer(Question.where("lock_wait_ms > 200").counts("instance", "message"), logs);
        // end
        assertEquals(5, failed.events().size());
        assertEquals("deck-2", waits.rows().get(0).values().get(0));
        List<Object> coaches = new ArrayList<>();
        // example: read
        Coverage read = QueryExecutor.read(Question.where("vehicle = coach"), logs, Control.NONE, event -> {
            coaches.add(event.fields().get("lane"));
            return coaches.size() < 100; // whether to continue
        });
        // end
        assertEquals(100, coaches.size());
        assertTrue(read.events() >= 100);
        assertTrue(Files.readString(PAGE)
                .contains(QuestionJson.of(
                        Question.where("level >= error and service = booking").newest(5))));
    }

    // example: source
    record DeckLog(List<Event> events) implements EventSource {
        @Override
        public Set<Capability> capabilities() {
            return Set.of(Capability.REPEATED_READING);
        }

        @Override
        public Plan plan(Scan scan, CoverageBuilder coverage) {
            Part all = own -> new EventRows(events.iterator(), 0, scan.projection(), own);
            return Plan.scanning(scan, List.of(all));
        }
    }
    // end

    @Test
    void aSourceOfYourOwnAnswersQuestions() throws IOException {
        List<Event> events = QueryExecutor.answer(
                        Question.where("service = deck").newest(1_000), LineFiles.at(List.of(day)))
                .events();
        assertEquals(
                1_000,
                QueryExecutor.answer(Question.all().counts("instance"), new DeckLog(events))
                        .all()
                        .count());
    }

    @Test
    void theTableListsTheKeysOfAllAnswers() throws IOException {
        Set<String> documented = new TreeSet<>();
        for (String line : Files.readAllLines(PAGE)) {
            if (line.matches("\\| `(answer|rows|matching|all|step|begins|others|events|too_many_values|coverage).*")) {
                Matcher key = Pattern.compile("`([^`]+)`").matcher(line.substring(0, line.indexOf(" | ", 2)));
                while (key.find()) {
                    documented.add(key.group(1));
                }
            }
        }
        Set<String> written = new TreeSet<>(Set.of(
                "all.kept", "all.low", "all.high", "rows[].kept", "rows[].low", "rows[].high")); // of sampled events
        EventSource logs = LineFiles.at(List.of(day));
        List<Question<?>> questions = List.of(
                Question.where("level >= error").newest(3),
                Question.where("lock_wait_ms exists")
                        .ask(new Ask.Counts(List.of(Name.of("instance")), Name.of("lock_wait_ms"))),
                Question.all().ask(Ask.TimeSteps.most(10).by(Name.of("service"), 2)),
                Question.all().ask(new Ask.TimeCells(10, null, null, List.of(Name.of("service")), 5)),
                Question.all().trail("booking", "B0046881"),
                Question.all().failures(),
                Question.where("instance = deck-2").contrastWith(Question.where("instance = deck-1")),
                Question.all().contextOf("level = error", 2),
                Question.all().values(),
                Question.all().catalogue());
        for (Question<?> question : questions) {
            JsonNode answer = new ObjectMapper().readTree(AnswerJson.of(QueryExecutor.answer(question, logs)));
            keys("", answer, answer.get("answer").textValue().equals("events"), written);
        }
        assertEquals(documented, written);
    }

    private static void keys(String path, JsonNode node, boolean hasEventRows, Set<String> to) {
        node.properties().forEach(field -> {
            String key = (path.isEmpty() ? "" : path + ".")
                    + field.getKey()
                    + (field.getValue().isArray() ? "[]" : "");
            boolean isLeaf = !field.getValue().isContainerNode() || DATA.contains(key) || key.startsWith("coverage.");
            if (isLeaf || key.equals("rows[]") || field.getValue().isArray()) {
                to.add(key);
            }
            if (DATA.contains(key) || key.equals("rows[]") && hasEventRows) {
                return;
            }
            if (field.getValue().isArray()) {
                field.getValue().forEach(each -> keys(key, each, hasEventRows, to));
            } else {
                keys(key, field.getValue(), hasEventRows, to);
            }
        });
    }
}
