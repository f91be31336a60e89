package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The verbs that read settings files. */
class SettingsVerbsTest extends CommandFixture {
    private Path file;

    @BeforeEach
    void writeSettings() throws IOException {
        file = Files.writeString(folder.resolve("deck.yaml"), """
                service: deck
                levels: {default: info, skerry.deck: debug}
                sinks:
                  screen: {type: console}
                  log: {type: file, path: logs/deck.jsonl}
                routes:
                  - {when: "level >= warn or message = \\"lane taken\\"", to: screen}
                  - {to: log}
                """);
    }

    @Test
    void explainReportsEveryDecisionAndItsExitCodeWhetherTheEventIsWritten() {
        assertEquals(0, run("explain", "skerry.deck.Lanes", "debug", "lane=A3", "--settings", file.toString()));
        assertEquals("""
                by %s
                skerry.deck.Lanes at level debug
                  yes      threshold  debug is at or above debug, set for skerry.deck  (line 2:25)
                  NO       route      to screen: level >= warn is false: level is debug; message = "lane taken" is false: message is empty  (line 7:5)
                  yes      route      to log: matches every event  (line 8:5)
                  NO       sink       screen: no route leads there  (line 4:11)
                  yes      sink       log accepts every level  (line 5:8)
                It is written to log.
                """.formatted(file), output);

        assertEquals(
                0, run("explain", "skerry.deck", "debug", "--message", "lane taken", "--settings", file.toString()));
        assertTrue(output.endsWith("It is written to screen, log.\n"), output);
        assertEquals(1, run("explain", "org.other", "debug", "--settings", file.toString()));
        assertTrue(
                output.contains("No sink receives it.\nTo enable it\n  in the settings: levels: {org.other: debug}\n"),
                output);
        assertEquals(0, run("explain", "org.other"));
        assertTrue(output.startsWith("by the defaults\n"), output);
    }

    @Test
    void explainRefusesWhatIsNoFieldOrTrace() {
        misused(
                "graphema: \"lane\" is not a valid field: expected one such as lane=A3\n",
                "explain",
                "skerry",
                "info",
                "lane",
                "--settings",
                file.toString());
        misused(
                "graphema: --trace 12 is not a valid trace id: expected 32 hexadecimal digits\n",
                "explain",
                "skerry",
                "info",
                "--trace",
                "12",
                "--settings",
                file.toString());
    }

    @Test
    void withoutALoggerWhatCannotMatchIsReported() throws IOException {
        assertEquals(0, run("explain", "--settings", file.toString()));
        Files.writeString(file, "sinks: {a: {type: console}, b: {type: console}}\nroutes: {to: a}\n");
        assertEquals(1, run("explain", "--settings", file.toString()));
        String finding = file + ":1:32: no event reaches the sink b: add a route to it, or remove it\n";
        assertEquals(finding + "1 finding\n", output);
        assertEquals(1, run("check", file.toString()));
        assertEquals(finding + file + ": no errors; 2 sinks, 1 route, 0 sampling rules; 1 finding\n", output);
    }

    @Test
    void checkReadsEveryProfile() throws IOException {
        Files.writeString(file, "profiles:\n  a: {levels: {x: debug}}\n  b: {levels: {x: inof}}\n");
        assertEquals(2, run("check", file.toString()));
        assertTrue(error.startsWith(file + ":3:19: \"inof\" is not a valid level"), error);
        Files.writeString(file, "profiles:\n  a: {levels: {x: debug}}\n  b: {}\n");
        assertEquals(0, run("check", file.toString()));
        assertTrue(output.endsWith(", profiles a, b\n"), output);
        assertEquals(1, run("explain", "x", "debug", "--settings", file.toString()));
        assertEquals(0, run("explain", "x", "debug", "--settings", file.toString(), "--profile", "a"));
    }

    @Test
    void theSchemaKnowsTheSinksOfAllLibraries() throws IOException {
        assertEquals(0, run("check", "--schema"));
        JsonNode schema = new ObjectMapper().readTree(output);
        List<String> kinds = new ArrayList<>();
        schema.at("/properties/sinks/additionalProperties/anyOf")
                .forEach(kind -> kinds.add(kind.at("/properties/type/const").textValue()));
        assertTrue(kinds.containsAll(List.of("console", "file", "http", "otlp", "syslog", "sql")), kinds::toString);
        misused("graphema: check needs a settings file, or --schema\n", "check");
    }

    @Test
    void wrongSettingsAreReportedInEveryVerbThatReadsThem() throws IOException {
        Path wrong = Files.writeString(folder.resolve("wrong.yaml"), "sinks: {log: {type: fil, path: a.jsonl}}\n");
        for (String[] arguments : new String[][] {
            {"check", wrong.toString()},
            {"explain", "skerry.deck", "info", "--settings", wrong.toString()},
            {"redact", "a", "--settings", wrong.toString()},
            {"find", "--redacted-by", wrong.toString(), "--in", logs.toString()}
        }) {
            assertTrue(run(arguments) > 0, arguments[0]);
            String all = output + error;
            assertTrue(all.contains("fil") && all.contains("did you mean file"), all);
            assertTrue(all.contains(":1:"), all);
            assertFalse(all.contains("Exception") || all.contains("\tat "), all);
        }
    }
}
