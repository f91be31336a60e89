package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;

import dev.graphema.cli.arguments.MisuseException;
import dev.graphema.cli.output.Console;
import dev.graphema.cli.verb.AroundVerb;
import dev.graphema.cli.verb.ContrastVerb;
import dev.graphema.cli.verb.FaultsVerb;
import dev.graphema.cli.verb.FindVerb;
import dev.graphema.cli.verb.FindingVerb;
import dev.graphema.cli.verb.TallyVerb;
import dev.graphema.cli.verb.TimelineVerb;
import dev.graphema.cli.verb.TrailVerb;
import dev.graphema.event.Event;
import dev.graphema.lines.LineFiles;
import dev.graphema.lines.LineStream;
import dev.graphema.query.Question;
import dev.graphema.query.json.AnswerJson;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.EventSource;
import dev.graphema.query.source.MemorySource;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.query.source.SeveralSources;
import dev.graphema.terminal.Paint;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Every question of docs/finding.md has the same answer, wherever the events are. */
class SameAnswersTest {
    private static final Path DAY = Path.of("day");
    private static final String PROMPT = "    $ graphema ";

    private static final List<Event> events = new ArrayList<>();
    private static byte[] lines;

    @BeforeAll
    static void readTheDay() throws IOException {
        QueryExecutor.read(Question.all(), files(), Control.NONE, events::add);
        ByteArrayOutputStream all = new ByteArrayOutputStream();
        for (Path file : LineFiles.at(List.of(DAY)).files()) {
            try (InputStream in = new GZIPInputStream(Files.newInputStream(file))) {
                in.transferTo(all);
            }
        }
        lines = all.toByteArray();
    }

    static Stream<String> commands() throws IOException {
        return Files.readAllLines(Path.of("..", "docs", "finding.md")).stream()
                .filter(line -> line.startsWith(PROMPT))
                .map(line -> line.substring(PROMPT.length()))
                .filter(command -> verb(command.split(" ")[0]) != null)
                .distinct();
    }

    @ParameterizedTest
    @MethodSource("commands")
    void theAnswerIsTheSame(String command) throws IOException, MisuseException {
        List<String> words = words(command);
        FindingVerb verb = verb(words.get(0));
        Console console = new Console(
                "graphema",
                InputStream.nullInputStream(),
                OutputStream.nullOutputStream(),
                new PrintStream(OutputStream.nullOutputStream()),
                Paint.NONE,
                0,
                ZoneId.of("UTC"),
                () -> false);
        verb.read(console, words.subList(1, words.size()).toArray(new String[0]));
        Question<?> question = verb.question();

        List<String> ofFiles = rows(question, files());
        assertFalse(ofFiles.isEmpty(), command);
        assertEquals(ofFiles, rows(question, new MemorySource(events)), "of memory");
        assertEquals(ofFiles, rows(question, new LineStream(new ByteArrayInputStream(lines))), "of a stream");
        int half = events.size() / 2;
        List<EventSource> halves = List.of(
                new MemorySource(events.subList(0, half)), new MemorySource(events.subList(half, events.size())));
        assertEquals(ofFiles, rows(question, new SeveralSources(halves)), "of several sources");
    }

    private static List<String> rows(Question<?> question, EventSource source) throws IOException {
        return AnswerJson.rows(QueryExecutor.answer(question, source)).toList();
    }

    private static EventSource files() throws IOException {
        return LineFiles.at(List.of(DAY));
    }

    private static FindingVerb verb(String name) {
        return switch (name) {
            case "around" -> new AroundVerb();
            case "contrast" -> new ContrastVerb();
            case "faults" -> new FaultsVerb();
            case "find" -> new FindVerb();
            case "tally" -> new TallyVerb();
            case "timeline" -> new TimelineVerb();
            case "trail" -> new TrailVerb();
            default -> null;
        };
    }

    private static List<String> words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = Pattern.compile("'([^']*)'|(\\S+)").matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words;
    }
}
