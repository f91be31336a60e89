package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.cli.Main;
import dev.graphema.cli.output.Console;
import dev.graphema.collector.Collector;
import dev.graphema.collector.CollectorOptions;
import dev.graphema.examples.day.Day;
import dev.graphema.terminal.Paint;
import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PrintStream;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * The walk in docs/finding.md: every command in it still answers as documented, and every kind of answer is what an independent tool makes of the
 * same logs. With the system property {@code reference.write} set to true, the answers are written there instead.
 */
class FindingPageTest {
    private static final Path PAGE = Path.of("..", "docs", "finding.md");
    private static final Path DAY = Path.of("day");
    private static final String PROMPT = "    $ graphema ";
    private static final Pattern AGO = Pattern.compile("\\d+d \\d+h ago|\\d+d ago");

    @TempDir
    private Path folder;

    private String output;
    private String error;

    @Test
    void everyCommandAnswersAsItReportsThere() throws IOException {
        String page = Files.readString(PAGE);
        StringBuilder again = new StringBuilder();
        int commands = 0;
        boolean isAnswer = false;
        for (String line : page.lines().toList()) {
            if (isAnswer && (line.startsWith("    ") && !line.startsWith("    $") || line.isEmpty())) {
                continue;
            }
            if (isAnswer) {
                again.append('\n');
            }
            isAnswer = line.startsWith(PROMPT);
            again.append(line).append('\n');
            if (isAnswer) {
                commands++;
                answer(line.substring(PROMPT.length()), again);
            }
        }
        if (Boolean.getBoolean("reference.write")) {
            Files.writeString(PAGE, again);
        } else {
            assertEquals(AGO.matcher(again).replaceAll("ago"), AGO.matcher(page).replaceAll("ago"));
        }
        assertTrue(commands >= 11, "the walk has " + commands + " commands");
    }

    /** The same walk over a store with the events of the day. Only what was read to answer differs. */
    @Test
    void everyCommandAnswersTheSameOverAStore() throws IOException {
        String store = folder.resolve("store").toString();
        run("store", "--in", DAY.toString(), "--to", store);
        assertEquals("13,800 lines stored in " + store, output.strip());
        commandsAnswerTheSame(store);
    }

    /** The same walk over a collector to which the logs were sent. */
    @Test
    void everyCommandAnswersTheSameOverACollector() throws IOException, InterruptedException {
        List<String> problems = new ArrayList<>();
        CollectorOptions options = CollectorOptions.usual(folder.resolve("collected"), problems::add)
                .port(0)
                .stamping(false);
        try (Collector collector = Collector.start(options)) {
            String address = "http://127.0.0.1:" + collector.port();
            for (Path file : files(DAY)) {
                HttpRequest request = HttpRequest.newBuilder(URI.create(address + "/lines"))
                        .header("Content-Encoding", "gzip")
                        .POST(HttpRequest.BodyPublishers.ofFile(file))
                        .build();
                assertEquals(
                        200,
                        HttpClient.newHttpClient()
                                .send(request, HttpResponse.BodyHandlers.discarding())
                                .statusCode());
            }
            commandsAnswerTheSame(address);
        }
        assertEquals(List.of(), problems);
    }

    private void commandsAnswerTheSame(String place) throws IOException {
        List<String> commands = Files.readString(PAGE)
                .lines()
                .filter(line ->
                        line.startsWith(PROMPT) && line.contains("--in examples/day") && !line.contains("--check"))
                .map(line -> line.substring(PROMPT.length()))
                .toList();
        for (String command : commands) {
            assertEquals(
                    withoutReads(answer(command, "examples/day", "../examples/day")),
                    withoutReads(answer(command, "examples/day", place)),
                    command);
        }
        assertTrue(commands.size() >= 10, "the walk has " + commands.size() + " commands");
    }

    private static String withoutReads(String answer) {
        return answer.replaceAll("[,;] [0-9,]+ read in [0-9]+ files?", "");
    }

    private void answer(String command, StringBuilder to) {
        answer(command, "examples/", "../examples/")
                .lines()
                .forEach(line -> to.append(line.isBlank() ? "" : "    " + line.stripTrailing())
                        .append('\n'));
    }

    private String answer(String command, String shown, String used) {
        run(words(command.replace(shown, used)).toArray(new String[0]));
        return (output + error).replace(used, shown);
    }

    @Test
    void theDayIsWhatTheScriptWrites() throws IOException {
        Day.write(folder);
        for (Path file : files(folder)) {
            assertEquals(
                    lines(DAY.resolve(file.getFileName().toString())),
                    lines(file),
                    file.getFileName().toString());
        }
        assertEquals(8, files(folder).size());
    }

    @Test
    void talliesAreWhatAnIndependentToolCounts() throws IOException {
        Map<String, Long> expected = counts("[.[] | select(.level == \"error\") | .instance + \",\" + .message] | .[]");
        run("tally", "instance,message", "level = error", "--as", "csv", "--limit", "0", "--in", DAY.toString());
        Map<String, Long> ours = new TreeMap<>();
        output.lines()
                .skip(1)
                .forEach(line -> ours.put(
                        line.substring(0, line.lastIndexOf(',')),
                        Long.parseLong(line.substring(line.lastIndexOf(',') + 1))));
        assertEquals(expected, ours);
        assertTrue(ours.size() > 3);
    }

    @Test
    void measuresAreWhatAnIndependentToolCounts() throws IOException {
        List<JsonNode> waits = query(
                "[.[] | select(.message == \"reserve lanes\" and .instance == \"deck-2\") | .fields.lock_wait_ms] | sort");
        JsonNode sorted = waits.get(0);
        long sum = 0;
        for (JsonNode wait : sorted) {
            sum += wait.longValue();
        }
        run(
                "tally",
                "instance",
                "message = \"reserve lanes\" and instance = deck-2",
                "--of",
                "lock_wait_ms",
                "--as",
                "json",
                "--in",
                DAY.toString());
        JsonNode row = new ObjectMapper().readTree(output);
        JsonNode ours = row.get("measured");
        assertEquals(sorted.size(), row.get("count").intValue());
        assertEquals(sum, ours.get("sum").longValue());
        for (int percent : List.of(50, 95, 99)) {
            int rank = (int) Math.ceil(sorted.size() * percent / 100.0);
            JsonNode percentile =
                    ours.get("percentiles").get(List.of(50, 95, 99).indexOf(percent));
            assertEquals(percent, percentile.get("of").intValue());
            assertEquals(
                    sorted.get(rank - 1).doubleValue(), percentile.get("value").doubleValue());
        }
        assertEquals(
                sorted.get(sorted.size() - 1).doubleValue(), ours.get("most").doubleValue());
    }

    @Test
    void stepsOfATimelineAreWhatAnIndependentToolCounts() throws IOException {
        Map<String, Long> expected = counts("[.[] | select(.level == \"error\") | .time[0:15] + \"0:00Z\"] | .[]");
        run("timeline", "level = error", "--step", "10m", "--as", "csv", "--in", DAY.toString());
        Map<String, Long> ours = new TreeMap<>();
        output.lines().skip(1).map(line -> line.split(",")).forEach(row -> ours.put(row[0], Long.parseLong(row[1])));
        ours.values().removeIf(count -> count == 0);
        assertEquals(expected, ours);
    }

    @Test
    void faultsAreWhatAnIndependentToolCounts() throws IOException {
        Map<String, Long> expected = counts("[.[] | select(.failure) | .failure.type + \" \" + .fingerprint] | .[]");
        run("faults", "--as", "json", "--in", DAY.toString());
        Map<String, Long> ours = new TreeMap<>();
        for (String line : output.lines().toList()) {
            JsonNode row = new ObjectMapper().readTree(line);
            ours.put(
                    row.get("type").textValue() + " " + row.get("fingerprint").textValue(),
                    row.get("count").longValue());
        }
        assertEquals(expected, ours);
    }

    @Test
    void contrastsAreWhatAnIndependentToolCounts() throws IOException {
        run("contrast", "--since", "2026-05-15T05:55:00Z", "--limit", "0", "--as", "json", "--in", DAY.toString());
        int checked = 0;
        for (String line : output.lines().toList()) {
            JsonNode row = new ObjectMapper().readTree(line);
            Matcher what = Pattern.compile("(release|vehicle|status) = (\\S+)")
                    .matcher(row.get("condition").textValue());
            if (what.matches()) {
                String select = "[.[] | select((.fields." + what.group(1) + " | tostring) == \"" + what.group(2)
                        + "\" and .time %s \"2026-05-15T05:55:00\")] | length";
                assertEquals(
                        query(select.formatted("<")).get(0).longValue(),
                        row.get("others").longValue(),
                        line);
                assertEquals(
                        query(select.formatted(">=")).get(0).longValue(),
                        row.get("events").longValue(),
                        line);
                checked++;
            }
        }
        assertTrue(checked >= 2, output);
    }

    @Test
    void whatIsAroundAnEventIsWhatAnIndependentToolSorts() throws IOException {
        List<JsonNode> all = query("sort_by(.time) | .[]");
        int at = 0;
        while (!all.get(at).path("failure").path("type").asText().endsWith("BankTimeoutException")) {
            at++;
        }
        run("around", "failure.type ends BankTimeoutException", "--show", "5", "--as", "json", "--in", DAY.toString());
        List<String> ours = output.lines().map(FindingPageTest::time).toList();
        List<String> expected = all.subList(at - 5, at + 6).stream()
                .map(event -> event.get("time").textValue())
                .toList();
        assertEquals(expected, ours);
    }

    @Test
    void everythingAboutAValueIsWhatAnIndependentToolSelects() throws IOException {
        run("trail", "booking=B0046881", "--as", "json", "--in", DAY.toString());
        List<JsonNode> expected = query("[.[] | select(.fields.booking == \"B0046881\")] | sort_by(.time) | .[]");
        assertEquals(
                expected.stream().map(event -> event.get("time").textValue()).toList(),
                output.lines().map(FindingPageTest::time).toList());
    }

    private static String time(String line) {
        try {
            return new ObjectMapper().readTree(line).get("time").textValue();
        } catch (IOException e) {
            throw new java.io.UncheckedIOException(e);
        }
    }

    private static Map<String, Long> counts(String query) throws IOException {
        return query(query).stream()
                .collect(Collectors.groupingBy(JsonNode::textValue, TreeMap::new, Collectors.counting()));
    }

    /** What the query gives for all events of the day, read by a library that knows nothing of Graphema. */
    private static List<JsonNode> query(String query) throws IOException {
        List<String> lines = new ArrayList<>();
        for (Path file : files(DAY)) {
            lines.addAll(lines(file));
        }
        return IndependentQuery.of(query, lines);
    }

    private static List<Path> files(Path folder) throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.toString().endsWith(".gz"))
                    .sorted()
                    .toList();
        }
    }

    private static List<String> lines(Path file) throws IOException {
        try (BufferedReader reader = new BufferedReader(
                new InputStreamReader(new GZIPInputStream(Files.newInputStream(file)), StandardCharsets.UTF_8))) {
            return reader.lines().toList();
        }
    }

    /** The words of a command as a shell reads them, as far as the page goes: blanks part them, single quotes keep them together. */
    private static List<String> words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = Pattern.compile("'([^']*)'|(\\S+)").matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words;
    }

    private void run(String... arguments) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        Main.run(
                new Console(
                        "graphema",
                        InputStream.nullInputStream(),
                        out,
                        new PrintStream(err, true, StandardCharsets.UTF_8),
                        Paint.NONE,
                        0,
                        ZoneId.of("UTC"),
                        () -> false),
                arguments);
        output = out.toString(StandardCharsets.UTF_8);
        error = err.toString(StandardCharsets.UTF_8);
    }
}
