package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.cli.Main;
import dev.graphema.cli.output.Console;
import dev.graphema.terminal.Paint;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Runs the whole demo once, with real processes, and checks its output with an independent tool. */
class DemoTest {
    private static final Path RECORDED = Path.of("recorded");

    @TempDir
    private Path folder;

    private final ByteArrayOutputStream shown = new ByteArrayOutputStream();

    @Test
    void theServicesRunAndTheFindingFindsTheCause() throws Exception {
        Path demo = folder.resolve("skerry line");

        assertEquals(0, run("demo", "--folder", demo.toString()), this::screen);

        everyRequestHasItsEvent();
        noCardNumberAnywhere(demo);
        theTrailIsWhatAnIndependentToolFinds(demo.resolve("logs"));
        noLinkIsBrokenInAnyTrace(demo.resolve("logs"));
        nothingIsMissingInAnyFile(demo.resolve("logs"));
        raisedDetailIsThatOfOneRequestInBothServices(demo.resolve("logs"));
        detailIsThereOfFailedRequestsAlone(demo.resolve("logs"));
        heartbeatsAreSampled(demo.resolve("logs"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"postgresql", "otlp", "collector"})
    void theSameStoryArrivesInADatabaseAndInACollector(String variant) {
        Path demo = folder.resolve(variant);

        assertEquals(0, run("demo", "--variant", variant, "--folder", demo.toString()), this::screen);

        // How wide a column is depends on what else has failed, which may be more on a busy machine.
        String expected = switch (variant) {
            case "otlp" -> "answered 4 requests by 503 at first";
            case "collector" -> "deck-2: [0-9]+ events; its file has";
            default -> "skerry\\.deck\\.LaneTimeoutException +deck-2";
        };
        assertTrue(Pattern.compile(expected).matcher(screen()).find(), this::screen);
    }

    @Test
    void theSameStoryArrivesInTwoCollectorsThroughABroker() {
        Path libraries = Path.of("../engines/kafka/target/libraries");
        assumeTrue(
                Files.isDirectory(libraries),
                "the demo with a broker of Kafka is skipped: run it with mvn verify -Pengines");
        System.setProperty(KafkaVariant.LIBRARIES, libraries.toString());
        Path demo = folder.resolve("kafka");
        assertEquals(0, run("demo", "--variant", "kafka", "--folder", demo.toString()), this::screen);
        assertTrue(
                Pattern.compile("have stored [1-9][0-9,]+ events:")
                        .matcher(screen())
                        .find(),
                this::screen);
    }

    @Test
    void theFindingCanBeRepeatedOnRecordedLogs() {
        assertEquals(0, run("demo", "--logs", RECORDED.toString()), this::screen);
        assertTrue(screen().contains("failed first: skerry.deck.LaneTimeoutException"), screen());
    }

    @Test
    void aFolderWithSomethingElseInItIsLeftAlone() throws IOException {
        Path precious = Files.writeString(folder.resolve("precious.txt"), "mine");

        assertEquals(2, run("demo", "--folder", folder.toString()));
        assertTrue(screen().contains("holds precious.txt, which is not part of a demo"), screen());
        assertEquals("mine", Files.readString(precious));
    }

    @Test
    void recordedLogsThatAreNotThereAreMisuse() {
        assertEquals(2, run("demo", "--logs", folder.resolve("none").toString()));
    }

    private void everyRequestHasItsEvent() {
        Matcher counts = Pattern.compile("sent ([0-9]+) requests .*; the logs contain ([0-9]+)\\.")
                .matcher(screen());
        assertTrue(counts.find(), screen());
        assertEquals(counts.group(1), counts.group(2));
        assertTrue(Integer.parseInt(counts.group(1)) > 50);
    }

    private void noCardNumberAnywhere(Path demo) throws IOException {
        for (String card : List.of(Driver.CARD, Driver.CARD_IN_REMARK, "@mail.example")) {
            assertFalse(screen().contains(card));
            try (Stream<Path> files = Files.walk(demo)) {
                for (Path file : files.filter(Files::isRegularFile).toList()) {
                    assertFalse(Files.readString(file).contains(card), file.toString());
                }
            }
        }
    }

    private void theTrailIsWhatAnIndependentToolFinds(Path logs) throws IOException {
        Matcher command = Pattern.compile("\\$ graphema trail ([0-9a-f]{32})").matcher(screen());
        assertTrue(command.find(), screen());
        String trace = command.group(1);
        shown.reset();
        assertEquals(0, run("trail", trace, "--as", "json", "--in", logs.toString()));
        List<String> ours = screen().lines().toList();

        List<JsonNode> expected = query("[.[] | select(.trace == \"" + trace + "\")] | sort_by(.time) | .[]", logs);

        assertEquals(expected.size(), ours.size());
        ObjectMapper json = new ObjectMapper();
        for (int i = 0; i < ours.size(); i++) {
            assertEquals(expected.get(i), json.readTree(ours.get(i)), "event " + i);
        }
        assertEquals(
                3,
                expected.stream()
                        .map(event -> event.get("service").textValue())
                        .distinct()
                        .count());
    }

    private static void detailIsThereOfFailedRequestsAlone(Path logs) throws IOException {
        List<JsonNode> debug = query("[.[] | select(.level == \"debug\")] | .[]", logs);
        Set<JsonNode> failed = query("[.[] | select(.level == \"error\")] | .[]", logs).stream()
                .map(event -> event.get("trace"))
                .collect(Collectors.toSet());
        Set<JsonNode> raised = query("[.[] | select(.level == \"trace\")] | .[]", logs).stream()
                .map(event -> event.get("trace"))
                .collect(Collectors.toSet());
        assertTrue(debug.size() > 4, debug.toString());
        for (JsonNode event : debug) {
            assertTrue(
                    event.has("held") ? failed.contains(event.get("trace")) : raised.contains(event.get("trace")),
                    event.toString());
        }
        assertEquals(
                Set.of("booking", "deck"),
                debug.stream()
                        .filter(event -> event.has("held"))
                        .map(event -> event.get("service").textValue())
                        .collect(Collectors.toSet()));
    }

    private static void heartbeatsAreSampled(Path logs) throws IOException {
        List<JsonNode> heartbeats = query("[.[] | select(.message == \"heartbeat\")] | .[]", logs);
        assertTrue(heartbeats.size() > 10);
        assertTrue(heartbeats.stream().allMatch(event -> event.get("weight").intValue() == 20));
    }

    private static void raisedDetailIsThatOfOneRequestInBothServices(Path logs) throws IOException {
        List<JsonNode> detail = query("[.[] | select(.level == \"trace\")] | .[]", logs);
        assertEquals(
                Set.of("booking", "deck"),
                detail.stream().map(event -> event.get("service").textValue()).collect(Collectors.toSet()));
        assertEquals(
                1, detail.stream().map(event -> event.get("trace")).distinct().count());
    }

    /** In each request, every span but the outermost is part of another one, also behind the hops between threads. */
    private static void noLinkIsBrokenInAnyTrace(Path logs) throws IOException {
        Map<String, List<JsonNode>> traces = query("[.[] | select(.trace)] | .[]", logs).stream()
                .collect(Collectors.groupingBy(event -> event.get("trace").textValue()));
        for (List<JsonNode> events : traces.values()) {
            Set<String> spans =
                    events.stream().map(event -> event.get("span").textValue()).collect(Collectors.toSet());
            Set<String> roots = events.stream()
                    .filter(event -> !event.has("parent")
                            || !spans.contains(event.get("parent").textValue()))
                    .map(event -> event.get("span").textValue())
                    .collect(Collectors.toSet());
            assertEquals(1, roots.size(), events.toString());
            assertTrue(events.stream().allMatch(event -> event.get("fields").has("booking")), events.toString());
        }
        List<JsonNode> notices = query("[.[] | select(.message == \"notice sent\")] | .[]", logs);
        assertTrue(notices.size() > 10);
        // From Java 21 on, a notice is sent by a virtual thread, which has no name.
        boolean virtual = Runtime.version().feature() >= 21;
        assertTrue(notices.stream()
                .allMatch(event ->
                        event.has("trace") && event.get("thread").textValue().isEmpty() == virtual));
    }

    /** Each process numbers its events from 1; a gap would be an event that was accepted and not written. */
    private void nothingIsMissingInAnyFile(Path logs) throws IOException {
        for (Path file : files(logs)) {
            List<JsonNode> numbers = query("[.[] | .sequence] | .[]", file);
            long expected = 0;
            List<Long> sorted = new ArrayList<>();
            for (JsonNode number : numbers) {
                // deck-2 is started three times and begins anew each time
                if (number.longValue() == 1) {
                    withoutGaps(sorted, file);
                }
                sorted.add(number.longValue());
                expected++;
            }
            withoutGaps(sorted, file);
            assertTrue(expected > 10, file.toString());
        }
    }

    private static void withoutGaps(List<Long> numbers, Path file) {
        numbers.sort(null);
        for (int i = 0; i < numbers.size(); i++) {
            assertEquals(i + 1, numbers.get(i), file.toString());
        }
        numbers.clear();
    }

    /** What the query gives for all events below the path, read by a library that knows nothing of Graphema. */
    private static List<JsonNode> query(String query, Path path) throws IOException {
        List<String> lines = new ArrayList<>();
        for (Path file : files(path)) {
            lines.addAll(Files.readAllLines(file));
        }
        return IndependentQuery.of(query, lines);
    }

    private static List<Path> files(Path path) throws IOException {
        try (Stream<Path> files = Files.walk(path)) {
            return files.filter(Files::isRegularFile).sorted().toList();
        }
    }

    private int run(String... arguments) {
        PrintStream stream = new PrintStream(shown, true, StandardCharsets.UTF_8);
        return Main.run(
                new Console(
                        "graphema",
                        InputStream.nullInputStream(),
                        stream,
                        stream,
                        Paint.NONE,
                        0,
                        ZoneId.of("UTC"),
                        () -> false),
                arguments);
    }

    private String screen() {
        return shown.toString(StandardCharsets.UTF_8);
    }
}
