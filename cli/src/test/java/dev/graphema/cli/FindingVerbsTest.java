package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.cli.output.Progress;
import dev.graphema.query.source.Control;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The verbs timeline, around, faults, contrast, watch and keep, and the ways in which find and tally show things. */
class FindingVerbsTest extends CommandFixture {
    @Test
    void timelineDrawsStepsAndMarksTheTopOfASpike() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int minute = 0; minute < 30; minute++) {
            int count = minute == 20 ? 40 : minute == 21 ? 20 : 3;
            for (int i = 0; i < count; i++) {
                lines.append("{\"time\":\"2026-05-15T06:%02d:%02dZ\",\"service\":\"%s\",\"message\":\"m\"}\n"
                        .formatted(minute, i, i % 3 == 0 ? "deck" : "gate"));
            }
        }
        Path file = Files.writeString(folder.resolve("spike.jsonl"), lines);
        assertEquals(0, run("timeline", "--by", "service", "--step", "1m", "--in", file.toString()));
        assertTrue(output.startsWith("service: █ gate   ▓ deck   · all others\n-- Friday, 2026-05-15"), output);
        assertEquals(1, output.lines().filter(line -> line.endsWith("◀ spike")).count(), output);
        assertTrue(output.contains("08:20     40  "), output);
        assertTrue(error.startsWith("30 steps of 1m; 144 read in 1 file\n"), error);
        assertTrue(error.contains("--during 2026-05-15T06:20:00Z/PT1M --in"), error);
        assertTrue(
                error.contains("contrast --during 2026-05-15T06:20:00Z/PT1M --against 2026-05-15T06:16:00Z/PT4M"),
                error);

        assertEquals(0, run("timeline", "--step", "10m", "--as", "csv", "--in", file.toString()));
        assertEquals(
                "from,count,spike\r\n2026-05-15T06:00:00Z,30,\r\n2026-05-15T06:10:00Z,30,\r\n2026-05-15T06:20:00Z,84,yes\r\n",
                output);
        assertEquals(1, run("timeline", "level = fatal", "--in", file.toString()));
        misused(
                "graphema: --step \"often\" is not a valid duration: expected one such as 15m, 2h or 3d\n",
                "timeline",
                "--step",
                "often",
                "--in",
                file.toString());
    }

    @Test
    void aroundShowsWhatWasEmittedBeforeAndAfter() {
        assertEquals(0, run("around", "failure.type exists", "--show", "1", "--in", logs.toString()));
        assertEquals(
                1,
                output.lines()
                        .filter(line -> line.startsWith("──▼── the event"))
                        .count());
        assertTrue(output.indexOf("crossing asked for") < output.indexOf("──▼"), output);
        assertTrue(output.indexOf("──▲") < output.indexOf("request  method=POST"), output);
        assertFalse(output.contains("next day"));
        assertTrue(error.contains("trail " + TRACE), error);

        assertEquals(
                0, run("around", "2026-05-15T08:31:02.100", "--show", "0", "--as", "json", "--in", logs.toString()));
        assertTrue(output.contains("reserve lanes"), output);
        assertEquals(
                0, run("around", "status = 503", "--only", "service = deck", "--as", "json", "--in", logs.toString()));
        assertEquals(3, output.lines().count(), output);
        assertEquals(1, run("around", "level = fatal", "--in", logs.toString()));
    }

    @Test
    void faultsShowsTheSameFailureAsOne() throws IOException {
        String failure =
                "{\"time\":\"2026-05-15T06:4%d:00Z\",\"instance\":\"deck-%d\",\"failure\":{\"type\":\"x.Other\",\"message\":\"at %d\",\"frames\":[\"x.A.b(A.java:%d)\"]}}\n";
        Files.writeString(
                logs.resolve("more.jsonl"),
                failure.formatted(0, 1, 1, 7) + failure.formatted(1, 2, 2, 8) + failure.formatted(2, 1, 3, 9));
        assertEquals(0, run("faults", "--in", logs.toString()));
        assertTrue(output.startsWith("     3  x.Other: at 3\n"), output);
        assertTrue(
                output.contains(
                        "in deck-1, deck-2\n        first 2026-05-15 08:40:00.000, last 2026-05-15 08:42:00.000"),
                output);
        assertTrue(output.contains("     1  skerry.deck.LaneTimeout"), output);
        assertTrue(error.startsWith("2 kinds of failure; 7 read in 3 files\n"), error);

        assertEquals(0, run("faults", "--limit", "1", "--as", "csv", "--in", logs.toString()));
        assertTrue(
                output.contains("\r\n3,2026-05-15T06:40:00Z,2026-05-15T06:42:00Z,\"deck-1, deck-2\",x.Other,at 3,"),
                output);
        assertEquals(1, run("faults", "service = booking", "--in", logs.toString()));
        assertEquals("no event has a failure; 7 read in 3 files\n", error);
    }

    private static String[] with(String[] arguments, Path file) {
        String[] all = Arrays.copyOf(arguments, arguments.length + 1);
        all[arguments.length] = file.toString();
        return all;
    }

    @Test
    void contrastReportsWhatIsNewSinceAMoment() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 600; i++) {
            lines.append("{\"time\":\"2026-05-15T06:%02d:00Z\",\"message\":\"m\",\"release\":\"%s\",\"id\":%d}\n"
                    .formatted(i / 10, i < 300 || i % 2 == 0 ? "2.4.0" : "2.4.1", i));
        }
        Path file = Files.writeString(folder.resolve("release.jsonl"), lines);
        String[] since = {"contrast", "--since", "2026-05-15T06:30:00Z", "--in", file.toString()};
        assertEquals(0, run(since));
        assertTrue(output.lines().skip(1).findFirst().orElse("").startsWith("new    release = 2.4.1 "), output);
        assertTrue(error.startsWith("of 300 events, against 300 others; 2 differences\n"), error);
        assertTrue(error.contains("not compared because of too many values: id"), error);

        String[] releases = {"contrast", "release = 2.4.1", "--than", "release = 2.4.0", "--as", "json", "--in"};
        assertEquals(1, run(with(releases, file)), "what the conditions demand is no difference");

        Path lanes = Files.writeString(
                folder.resolve("lanes.jsonl"),
                lines.toString().replace("\"release\":\"2.4.1\"", "\"release\":\"2.4.1\",\"lane\":\"L7\""));
        assertEquals(0, run(with(releases, lanes)));
        JsonNode first = new ObjectMapper().readTree(output.lines().findFirst().orElseThrow());
        assertEquals("new", first.get("difference").textValue());
        assertEquals(150, first.get("events").intValue());
        assertEquals(
                1,
                run(
                        "contrast",
                        "--against",
                        "2026-05-15T06:10:00Z/PT5M",
                        "--during",
                        "2026-05-15T06:15:00Z/PT5M",
                        "--in",
                        file.toString()));
        assertTrue(error.contains("nothing differs more than chance explains"), error);
        misused(
                "graphema: there is nothing to compare with: expected one of --since TIME, --against INTERVAL, --than"
                        + " CONDITION\n",
                "contrast",
                "--in",
                file.toString());
    }

    @Test
    void watchShowsWhatIsWrittenMeanwhile() {
        ByteArrayOutputStream shown = new ByteArrayOutputStream();
        boolean[] written = {false};
        stop = () -> {
            if (!written[0]) {
                written[0] = true;
                append(
                        "deck-2.jsonl",
                        "{\"time\":\"2026-05-16T07:00:00Z\",\"level\":\"warn\",\"message\":\"new in an old file\"}\n");
                append(
                        "deck-3.jsonl",
                        "{\"time\":\"2026-05-16T07:00:01Z\",\"level\":\"warn\",\"message\":\"in a new file\"}\n");
            }
            return shown.toString(StandardCharsets.UTF_8).contains("in a new file");
        };
        assertEquals(0, run(shown, "watch", "level = warn", "--for", "60s", "--before", "0", "--in", logs.toString()));
        assertTrue(shown.toString(StandardCharsets.UTF_8).contains("new in an old file"), shown.toString());
        assertEquals("2 new events\n", error);
    }

    private void append(String file, String text) {
        try {
            Files.writeString(logs.resolve(file), text, StandardOpenOption.CREATE, StandardOpenOption.APPEND);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Test
    void whoeverStopsItIsShownWhatWasFoundSoFar() throws IOException {
        Files.writeString(
                logs.resolve("long.jsonl"),
                "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"m\",\"pad\":\"%s\"}\n"
                        .formatted("x".repeat(500))
                        .repeat(10_000));
        int[] asked = {0};
        stop = () -> asked[0]++ > 3;
        assertEquals(0, run("tally", "message", "--in", logs.toString()));
        assertTrue(error.contains("stopped: this is the result of the first "), error);
    }

    @Test
    void aQuestionIsKeptAskedAgainAndDropped() throws IOException {
        System.setProperty("graphema.XDG_CONFIG_HOME", folder.resolve("config").toString());
        System.setProperty("graphema.XDG_STATE_HOME", folder.resolve("state").toString());
        try {
            assertEquals(1, run("keep"));
            assertEquals(0, run("keep", "lanes", "find", "lock_wait_ms > 200ms", "--in", logs.toString()));
            assertEquals("stored; to run it: graphema keep lanes\n", error);
            assertEquals(0, run("keep", "lanes", "--as", "json"));
            assertTrue(output.contains("next day"), output);
            assertTrue(
                    error.startsWith("asking: graphema find 'lock_wait_ms > 200ms' --in " + logs + " --as json\n"),
                    error);
            assertEquals(0, run("keep"));
            assertEquals("lanes  graphema find 'lock_wait_ms > 200ms' --in " + logs + "\n", output);
            misused(
                    "graphema: no question is stored as \"lane\": expected one of lanes; did you mean lanes?\n",
                    "keep",
                    "lane");
            assertEquals(2, run("keep", "x", "fnid"));
            assertEquals(0, run("keep", "--drop", "lanes"));
            assertEquals(2, run("keep", "--drop", "lanes"));
        } finally {
            System.clearProperty("graphema.XDG_CONFIG_HOME");
            System.clearProperty("graphema.XDG_STATE_HOME");
        }
    }

    @Test
    void findShowsTheOldestTheWholeEventAndChosenColumns() {
        assertEquals(
                0,
                run("find", "--oldest", "--limit", "1", "--columns", "time,message,booking", "--in", logs.toString()));
        assertEquals(
                "time                     message             booking\n2026-05-15 08:31:02.000  crossing asked for  B0047113\n",
                output);
        assertTrue(error.contains("the oldest 1 of "), error);
        assertEquals(0, run("find", "lock_wait_ms exists", "--whole", "--in", logs.toString()));
        assertTrue(output.contains("\n  message = \"next day\"\n"), output);
        assertTrue(output.contains("\n  lock_wait_ms = 250\n"), output);
        assertTrue(output.contains(" ago)") || output.contains(", in "), output);
        assertEquals(
                0, run("find", "status exists", "--as", "csv", "--columns", "time,status", "--in", logs.toString()));
        assertEquals("time,status\r\n2026-05-15T06:31:02.300Z,503\r\n", output);
    }

    @Test
    void everyValueOfAWholeEventIsAConditionThatHoldsForIt() {
        assertEquals(0, run("find", "failure.type exists", "--whole", "--in", logs.toString()));
        String[] conditions = output.lines()
                .filter(line -> line.startsWith("  ") && !line.startsWith("    "))
                .map(String::strip)
                .toArray(String[]::new);
        assertTrue(conditions.length > 10, output);
        for (String condition : conditions) {
            assertEquals(
                    0, run("find", "(" + condition + ") and failure.type exists", "--in", logs.toString()), condition);
        }
    }

    @Test
    void tallyMeasuresNumbersAndDurations() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 1; i <= 100; i++) {
            lines.append("{\"time\":\"2026-05-15T06:00:00Z\",\"fields\":{\"lane\":\"A%d\",\"n\":%d,\"d\":\"PT%dS\"}}\n"
                    .formatted(i % 2, i, i));
        }
        Path file = Files.writeString(folder.resolve("numbers.jsonl"), lines);
        assertEquals(0, run("tally", "lane", "--of", "n", "--as", "csv", "--in", file.toString()));
        assertEquals(
                "lane,count,different,sum,mean,median,p95,p99,least,most,error\r\nA0,50,50,2550,51,50,96,100,2,100,0.0\r\n"
                        + "A1,50,50,2500,50,49,95,99,1,99,0.0\r\n",
                output);
        assertEquals(
                0,
                run(
                        "tally",
                        "n <= 3",
                        "--of",
                        "n",
                        "--percentiles",
                        "p50,99.9",
                        "--as",
                        "csv",
                        "--in",
                        file.toString()));
        assertEquals("count,different,sum,mean,median,p99.9,least,most,error\r\n3,3,6,2,2,3,1,3,0.0\r\n", output);
        assertEquals(0, run("tally", "--in", file.toString()));
        assertEquals("count   share\n  100  100.0%  ██████████████████████████████\n", output);
        assertEquals("100 events; 100 read in 1 file\nto see them: graphema find --in " + file + "\n", error);
        assertEquals(0, run("tally", "lane", "--of", "d", "--limit", "1", "--in", file.toString()));
        assertTrue(output.contains("42m 30s"), output);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "--during 2026-05-16T00:00/P1D",
                "--during PT4H/2026-05-16T10:00",
                "--during 2026-05-16/2026-05-17T00:00",
                "--around 2026-05-16T08:01 --within 2m",
                "--from 2026-05-16T07:00+01:00",
                "--zone +00:00 --from 2026-05-16T06:00 --to 2026-05-16T06:01"
            })
    void aWindowHasManyForms(String window) {
        assertEquals(0, run(("find --as json --in " + logs + " " + window).split(" ")), error);
        assertEquals(1, output.lines().count(), output);
        assertTrue(output.contains("next day"), output);
    }

    @Test
    void redactedLogsAreAskedByPlainValues() throws IOException {
        Path settings = Files.writeString(
                folder.resolve("graphema.yaml"),
                "redaction: {detect: [mail], treat: {mail: pseudonym}, pseudonyms: {id: k1, key: 0123456789abcdef}}\n");
        assertEquals(0, run("redact", "ada@mail.example", "--settings", settings.toString()));
        String pseudonym = output.replaceAll("(?s).*(pseudonym-k1-[a-z]+).*", "$1");
        Files.writeString(
                logs.resolve("notices.jsonl"),
                "{\"time\":\"2026-05-15T06:00:00Z\",\"fields\":{\"to\":\"%s\"}}\n".formatted(pseudonym));
        assertEquals(1, run("find", "to = \"ada@mail.example\"", "--in", logs.toString()));
        assertEquals(
                0,
                run(
                        "find",
                        "to = \"ada@mail.example\"",
                        "--as",
                        "json",
                        "--in",
                        logs.toString(),
                        "--redacted-by",
                        settings.toString()));
        assertTrue(output.contains(pseudonym), output);
        assertEquals("in redacted logs, this means: to = \"ada@mail.example\" or to = \"" + pseudonym + "\"\n", error);
    }

    @Test
    void windowsThatContradictAreMisuse() {
        misused(
                "graphema: the window is given in several ways: expected one of --from and --to, --last, --during, --around\n",
                "find",
                "--last",
                "1h",
                "--during",
                "2026-05-15/P1D",
                "--in",
                logs.toString());
        misused("graphema: --within 1h requires --around TIME\n", "find", "--within", "1h", "--in", logs.toString());
        assertEquals(2, run("find", "--during", "2026-05-15", "--in", logs.toString()));
        assertTrue(error.contains("is not a valid interval: expected two moments"), error);
    }

    @Test
    void progressStatesWhatWasReadAndWhatIsLeft() {
        assertEquals("0 events, 0 MB", Progress.line(new Control.Progress(0, 0, 0), Duration.ofSeconds(2)));
        assertEquals(
                "25% read: 0 events, 5 MB; 6s left",
                Progress.line(new Control.Progress(0, 5 << 20, 20 << 20), Duration.ofSeconds(2)));
    }

    @Test
    void tablesHoldNoFormulas() throws IOException {
        Path file = Files.writeString(folder.resolve("formulas.jsonl"), """
                {"message":"a","text":"=HYPERLINK(1)"}
                {"message":"a","text":"=HYPERLINK(1)"}
                {"message":"a","text":"@SUM(1)"}
                {"message":"a","text":-5}
                """);
        assertEquals(0, run("tally", "text", "--as", "csv", "--in", file.toString()));
        assertEquals(
                List.of("'=HYPERLINK(1)", "'@SUM(1)", "-5"),
                output.lines()
                        .skip(1)
                        .map(line -> line.substring(0, line.indexOf(',')))
                        .sorted()
                        .toList());
    }

    @Test
    void aSpikeIsComparedWithOtherTimes() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int minute = 0; minute < 30; minute++) {
            for (int i = 0; i < (minute == 0 ? 50 : 3); i++) {
                lines.append("{\"time\":\"2026-05-15T06:%02d:%02dZ\",\"message\":\"m\"}\n".formatted(minute, i));
            }
        }
        Path file = Files.writeString(folder.resolve("first.jsonl"), lines);
        assertEquals(0, run("timeline", "--step", "1m", "--in", file.toString()));
        assertTrue(
                error.contains("contrast --during 2026-05-15T06:00:00Z/PT1M --against 2026-05-15T06:01:00Z/PT4M"),
                error);
    }

    @Test
    void whatCannotBeFoundAsAskedIsReported() throws IOException {
        assertEquals(1, run("find", "elapsed > 0.1", "--in", logs.toString()));
        assertTrue(error.contains("elapsed is a duration: compare it with one, as in elapsed > 1s"), error);

        Path file = Files.writeString(
                folder.resolve("other.jsonl"),
                "{\"@timestamp\":\"2026-05-15T06:00:00Z\",\"severity\":\"ERROR\",\"msg\":\"m\"}\n");
        assertEquals(0, run("find", "severity = ERROR", "--in", file.toString()));
        assertEquals(0, run("tally", "severity", "--in", file.toString()));
        assertTrue(output.contains("ERROR"), output);

        assertEquals(1, run("find", "severity = error", "--in", logs.toString()));
        assertTrue(error.contains("in lines of other programs, it is read as level: ask for level"), error);
        assertEquals(0, run("tally", "severity", "--in", logs.toString()));
        assertTrue(error.contains("in lines of other programs, severity is read as level: ask for level"), error);
    }

    @Test
    void twoLogsAreComparedByTheValuesOfFields() throws IOException {
        Path one = Files.writeString(folder.resolve("one.log"), """
                ts=2026-05-15T06:00:00Z msg=reserved lane=A3
                ts=2026-05-15T06:00:01Z msg=reserved lane=A3
                ts=2026-05-15T06:00:02Z msg=reserved lane=B1
                ts=2026-05-15T06:00:03Z msg=refused lane=B2
                """);
        Path other = Files.writeString(folder.resolve("other.log"), """
                ts=2026-05-15T06:00:07Z msg=reserved lane=A3
                ts=2026-05-15T06:00:08Z msg=reserved lane=B1
                ts=2026-05-15T06:00:09Z msg=closed
                """);
        assertEquals(0, run("compare", "message,lane", "--in", one.toString(), "--with", other.toString()));
        assertEquals("""
                message   lane  here  there
                closed             0      1
                refused   B2       1      0
                reserved  A3       2      1
                """, output);
        assertTrue(
                error.startsWith(
                        "2 combinations in one log only, 1 in different numbers; 4 events here and 3 there\nto see the first:"
                                + " graphema find 'message = closed and lane missing' --in " + other),
                error);
        assertEquals(1, run("compare", "message", "lane = B1", "--in", one.toString(), "--with", other.toString()));
        assertEquals("no difference; 1 event here and 1 there\n", error);
        misused(
                "graphema: there is nothing to compare with: expected --with and a file or folder\n",
                "compare",
                "lane",
                "--in",
                one.toString());
    }

    @Test
    void whatExcludesEverythingIsNamedWithWhatThereIs() {
        for (String verb : List.of("find", "tally level", "timeline")) {
            String[] words = (verb + "|service = dek and level = error|--in|" + logs)
                    .replace("tally level", "tally|level")
                    .split("\\|");
            assertEquals(1, run(words), verb);
            assertTrue(
                    error.contains(
                            "  no event has service = dek; did you mean deck?; values there are: booking, deck\n"),
                    error);
            assertTrue(error.contains("  without service = dek, 2 events would match\n"), error);
            assertFalse(error.contains("without level"), error);
        }
        assertEquals(1, run("find", "message.shape = nothing", "--in", logs.toString()));
        assertFalse(error.contains("no event has a field called message.shape"), error);
    }

    @Test
    void theExitCodeReportsWhatCouldNotBeRead() throws IOException {
        Path memory = Path.of("/proc/self/mem");
        assumeTrue(Files.exists(memory), "only Linux has a file that opens and cannot be read");
        Path locked = Files.createSymbolicLink(logs.resolve("locked.jsonl"), memory);
        for (String verb : List.of("find", "timeline", "faults")) {
            assertEquals(2, run(verb, "--in", logs.toString()));
            assertFalse(output.isEmpty(), "the other files are read");
            assertTrue(error.contains("not read: " + locked), error);
        }
    }

    @Test
    void theNextDamagedLineIsShownAndItsPlaceReported() throws IOException {
        Path file = Files.writeString(folder.resolve("damaged.jsonl"), """
                {"time":"2026-05-15T06:00:00Z","message":"first"}
                {"time":"2026-05-15T06:00:01Z","message":"half
                {"time":"2026-05-15T06:00:02Z","message":"last"}
                """);
        assertEquals(0, run("find", "--in", file.toString()));
        assertTrue(output.contains("first") && output.contains("last"), output);
        assertTrue(error.contains("damaged.jsonl:2"), error);
    }
}
