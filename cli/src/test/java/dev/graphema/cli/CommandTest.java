package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.cli.output.Shell;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.Arrays;
import java.util.List;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What holds for all verbs, and the verb find. */
class CommandTest extends CommandFixture {
    @Test
    void findShowsWhatMatchesInTheOrderOfTimeWithALineForEachDay() {
        assertEquals(0, run("find", "service = deck or level = info", "--in", logs.toString()));
        assertEquals("""
                -- Friday, 2026-05-15, times of Europe/Berlin
                08:31:02.000 info  booking  skerry.booking         crossing asked for  booking=B0047113
                08:31:02.290 ERROR deck-2   skerry.deck            reserve lanes  elapsed=280ms outcome=failure
                    skerry.deck.LaneTimeout: lane A3 was not free
                      at skerry.deck.Lanes.take(Lanes.java:42)
                -- Saturday, 2026-05-16, times of Europe/Berlin
                08:00:00.000 info  deck-2   skerry.deck            next day  lock_wait_ms=250
                """, output);
        assertEquals(
                "3 matching events, 4 read in 2 files\nto follow a request: graphema trail " + TRACE + " --in " + logs
                        + "\n",
                error);
    }

    @Test
    void findShowsTheNewestAndReportsThatThereAreMore() {
        assertEquals(0, run("find", "--limit", "1", "--in", logs.toString()));
        assertTrue(output.contains("next day"));
        assertFalse(output.contains("crossing"));
        assertEquals(
                "the newest 1 of 4 matching events, 4 read in 2 files; --limit 0 shows all\nto see when they came: graphema timeline --in "
                        + logs + "\n",
                error);
    }

    @Test
    void findAsJsonIsForTheNextTool() throws IOException {
        assertEquals(0, run("find", "lock_wait_ms > 200ms", "--as", "json", "--in", logs.toString()));
        assertEquals(
                "next day", new ObjectMapper().readTree(output).get("message").textValue());
        assertEquals("", error);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "--from 2026-05-16",
                "--from 2026-05-16T08:00",
                "--from 2026-05-16T06:00:00Z --to 2026-05-17",
                "--from 2026-05-15T23:59:59.999+02:00"
            })
    void aWindowNarrows(String window) {
        run(("find --in " + logs + " " + window).split(" "));

        assertEquals(2, output.lines().count(), output);
        assertTrue(output.contains("next day"));
    }

    @Test
    void theEndOfAWindowIsNotInIt() {
        run("find", "--to", "2026-05-16T08:00", "--in", logs.toString());
        assertFalse(output.contains("next day"));
        run("find", "--last", "1m", "--in", logs.toString());
        assertEquals("", output);
    }

    @Test
    void findingNothingIsAnExitCodeAndAnExplanation() {
        assertEquals(1, run("find", "lock_wait_sm > 1", "--in", logs.toString()));
        assertEquals("", output);
        assertEquals("""
                no event matches; 4 read in 2 files
                  no event has a field called lock_wait_sm; did you mean lock_wait_ms?
                  fields there are: booking, elapsed, lock_wait_ms, method, outcome, path, status
                """, error);
    }

    @Test
    void ifAWindowHasNoEventItIsReportedWhenThereAreAny() {
        assertEquals(1, run("find", "--from", "2027-01-01", "--in", logs.toString()));
        assertTrue(error.contains("the events are from 2026-05-15 08:31:02.000 to 2026-05-16 08:00:00.000"), error);
    }

    @Test
    void damagedEventsAreReportedWithOneLineForEachReasonWhateverIsSearched() throws IOException {
        Path file = logs.resolve("deck-2.jsonl");
        Files.writeString(file, "nonsense\n".repeat(5) + "{\"level\":\"info\",\"n\":1\n", StandardOpenOption.APPEND);
        for (String condition : List.of("level = info", "\"next day\"", "instance = deck-2", "booking exists")) {
            assertEquals(0, run("find", condition, "--in", logs.toString()), condition);
            assertTrue(
                    error.startsWith("5 events read in part: there is no time (" + file + ":3, " + file + ":4, " + file
                            + ":5 and 2 more; --unreadable shows them)\n1 event read in part: the line is cut off ("
                            + file
                            + ":8)\n"),
                    error);
        }
    }

    @Test
    void standardInputIsReadToo() throws IOException {
        input = new ByteArrayInputStream(Files.readAllBytes(logs.resolve("deck-2.jsonl")));
        assertEquals(0, run("find", "level = error", "--in", "-"));
        assertTrue(output.contains("reserve lanes"));
        input = new ByteArrayInputStream("starting up\n{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"ready\"}\n"
                .getBytes(StandardCharsets.UTF_8));
        assertEquals(0, run("find", "--in", "-"));
        assertTrue(output.startsWith("starting up\n-- Friday"), "foreign lines are passed through: " + output);
        assertTrue(output.contains("ready"));
        assertEquals(1, run("find", "level = fatal", "--in", "-", "--as", "json"));
        assertEquals("no events in 1 file\n", error);
    }

    @Test
    void standardInputMayBeCompressedAndAskedForItsNewest() throws IOException {
        ByteArrayOutputStream compressed = new ByteArrayOutputStream();
        try (GZIPOutputStream gzip = new GZIPOutputStream(compressed)) {
            for (int i = 0; i < 3; i++) {
                gzip.write(line(i).getBytes(StandardCharsets.UTF_8));
            }
        }
        String last = line(2);
        byte[] bytes = compressed.toByteArray();
        input = new ByteArrayInputStream(bytes);
        assertEquals(0, run("find", "--limit", "1", "--as", "json", "--in", "-"));
        assertEquals(last, output);
        input = new ByteArrayInputStream(bytes, 0, bytes.length - 4);
        assertEquals(0, run("find", "--as", "json", "--in", "-"));
        assertTrue(output.endsWith(last), output);
        assertTrue(error.contains("1 line ignored: the compressed bytes are cut off or damaged here"), error);
    }

    private static String line(int second) {
        return "{\"time\":\"2026-05-15T06:31:0" + second
                + ".000000000Z\",\"level\":\"info\",\"message\":\"crossing asked for\",\"fields\":{\"booking\":\"B004711"
                + second + "\"}}\n";
    }

    @ParameterizedTest
    @ValueSource(strings = {"around 'level = error' --show 1", "trail " + TRACE, "watch --for 1ms"})
    void verbsThatShowEventsShowThemAsRowsToo(String verb) {
        String[] arguments = verb.replace("'level = error'", "level=error").split(" ");
        String[] all = Arrays.copyOf(arguments, arguments.length + 6);
        System.arraycopy(
                new String[] {"--columns", "time,message", "--as", "csv", "--in", logs.toString()},
                0,
                all,
                arguments.length,
                6);
        run(all);
        assertTrue(output.startsWith("time,message\r\n"), output);
        assertTrue(output.contains("2026-05-15T06:31:02.290Z,reserve lanes\r\n"), output);
        all[arguments.length + 3] = "table";
        run(all);
        assertTrue(output.startsWith("time                     message\n"), output);
        assertTrue(output.contains("2026-05-15 08:31:02.290  reserve lanes\n"), output);
    }

    @Test
    void misuseIsAnsweredWithWhatWasExpected() {
        misused(
                "graphema: in the condition, \"wran\" is not a valid level: expected one of trace, debug, info, warn, error, fatal; did"
                        + " you mean warn?\n  level >= wran\n           ^\n",
                "find",
                "level >= wran",
                "--in",
                logs.toString());
        misused(
                "graphema: there is no file or folder " + logs.resolve("none") + "; check the path\n",
                "find",
                "--in",
                logs.resolve("none").toString());
        misused(
                "graphema: no .jsonl, .ndjson or .log file in " + folder.resolve("empty")
                        + "; name files or another folder with" + " --in\n",
                "find",
                "--in",
                emptyFolder());
        misused(
                "graphema: --limit \"-1\": expected a whole number from 0 to 2147483647\nSee: graphema find --help\n",
                "find",
                "--limit=-1",
                "--in",
                logs.toString());
        misused(
                "graphema: --last \"soon\" is not a valid duration: expected one such as 15m, 2h or 3d\n",
                "find",
                "--last",
                "soon",
                "--in",
                logs.toString());
        misused(
                "graphema: --from \"noon\" is not a valid time: expected one such as 2026-05-15T07:10, 07:10, \"yesterday 09:00\","
                        + " friday, \"2h ago\" or now\n",
                "find",
                "--from",
                "noon",
                "--in",
                logs.toString());
        misused(
                "graphema: the window is given in several ways: expected one of --from and --to, --last, --during, --around\n",
                "find",
                "--last",
                "1h",
                "--to",
                "2026-05-15",
                "--in",
                logs.toString());
        misused(
                "graphema: --in - reads standard input and cannot be combined with files: expected one of the two\n",
                "find",
                "--in",
                "-",
                "--in",
                logs.toString());
        misused(
                "graphema: \"xyz\" is not a valid trace id: expected 4 to 32 hexadecimal digits, as find --as json shows them under"
                        + " \"trace\", or a field and its value, as in booking=B0047113\n",
                "trail",
                "xyz",
                "--in",
                logs.toString());
    }

    @Test
    void anUnknownVerbOrOptionIsAnsweredWithTheNearest() {
        misused(
                "graphema: there is no verb \"fnid\": expected one of around, backup, check, collect, compare, completion, contrast, explain, faults, fields, find, forget, keep, overview, page, redact, segment, shape, store, tally, tidy, timeline, token, trail, watch; did you mean find?\nSee: graphema --help\n",
                "fnid");
        misused(
                "graphema: there is no option --limt; did you mean --limit?\nSee: graphema find --help\n",
                "find",
                "--limt=3");
        misused(
                "graphema: \"=\" is unexpected: put the whole condition in quotes\nSee: graphema find --help\n",
                "find",
                "lane",
                "=",
                "A3");
        misused(
                "graphema: TRACE|FIELD=VALUE is missing: expected a trace id, or its first digits, at least 4; or a field and its"
                        + " value, for all events about it\nSee: graphema trail --help\n",
                "trail");
        misused(
                "graphema: there is no option --last before a verb: expected one of around, backup, check, collect, compare, completion, contrast,"
                        + " explain, faults, fields, find, forget, keep, overview, page, redact, segment, shape, store, tally, tidy, timeline, token, trail, watch\nSee: graphema --help\n",
                "--last",
                "5m");
        assertEquals(2, run());
        assertTrue(output.contains("Verbs:"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "around",
                "check",
                "compare",
                "contrast",
                "explain",
                "faults",
                "fields",
                "find",
                "keep",
                "redact",
                "shape",
                "tally",
                "timeline",
                "trail",
                "watch"
            })
    void everyVerbHasHelpWithTwoExamples(String verb) {
        assertEquals(0, run(verb, "--help"));
        assertTrue(
                output.lines()
                                .filter(line -> line.startsWith("  ") && line.contains("graphema " + verb + " "))
                                .count()
                        >= 2,
                output);
    }

    @ParameterizedTest
    @ValueSource(strings = {"find", "find --help", "--help", "--version", "tally level", "find --as json"})
    void anOutputThatIsClosedEarlyIsNoFaultButOneThatIsFull(String line) {
        String[] arguments = (line.startsWith("-") || line.endsWith("help") ? line : line + " --in " + logs).split(" ");

        assertEquals(0, run(failing("Broken pipe"), arguments));
        assertEquals("", error);

        assertEquals(1, run(failing("No space left on device"), arguments));
        assertEquals(
                "graphema: the output could not be written completely: No space left on device; it is incomplete\n",
                error);
    }

    private static OutputStream failing(String why) {
        return new OutputStream() {
            @Override
            public void write(int b) throws IOException {
                throw new IOException(why);
            }
        };
    }

    @Test
    void nothingInALogSteersTheTerminal() throws IOException {
        Files.writeString(logs.resolve("hostile.jsonl"), """
                {"time":"2026-05-15T06:00:00Z","level":"error","service":"\\u001b[2J","logger":"\\u001b]0;x\\u0007","message":"a\\nb\\u009b","trace":"%s","span":"0000000000000009","fields":{"\\u001b[31m":"\\u202e","elapsed":"PT1S","outcome":"failure","path":"\\u001b[2J"},"failure":{"type":"\\u001b[2J","message":"\\r\\n"}}
                """.formatted(TRACE));
        for (List<String> command : List.of(
                List.of("find"),
                List.of("trail", TRACE),
                List.of("find", "--as", "json"),
                List.of("find", "--as", "csv"),
                List.of("find", "--as", "table"),
                List.of("find", "--whole"),
                List.of("tally", "service,message"),
                List.of("tally", "service", "--of", "path"),
                List.of("timeline", "--by", "service"),
                List.of("timeline", "--by", "service", "--as", "csv"),
                List.of("faults"),
                List.of("faults", "--as", "csv"),
                List.of("around", "level = error"))) {
            String[] arguments = java.util.stream.Stream.concat(
                            command.stream(), java.util.stream.Stream.of("--in", logs.toString()))
                    .toArray(String[]::new);
            run(arguments);
            assertTrue(output.contains("\\u001b[2J"), output);
            String shown = (output + error).replace("\r\n", "\n"); // as CSV ends its lines
            assertTrue(shown.chars().allMatch(c -> c == '\n' || !Character.isISOControl(c)), output);
        }
    }

    @ParameterizedTest
    @ValueSource(strings = {"logs", "a/b-c.jsonl", "2026-05-15T07:10"})
    void plainWordsNeedNoQuotes(String word) {
        assertEquals(word, Shell.quoted(word));
    }

    @Test
    void otherWordsAreQuotedForAShell() {
        assertEquals("''", Shell.quoted(""));
        assertEquals("'level >= warn'", Shell.quoted("level >= warn"));
        assertEquals("'it'\\''s $HOME'", Shell.quoted("it's $HOME"));
    }
}
