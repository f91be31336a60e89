package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Attribute;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** The verbs tally, trail and check. */
class VerbsTest extends CommandFixture {
    @Test
    void trailShowsOperationsFirstFailureAndEveryEvent() {
        assertEquals(0, run("trail", "4bf92f", "--in", logs.toString()));
        assertEquals("""
                trace 4bf92f3577b34da6a3ce929d0e0e4736: 3 events, 300ms, 2 services (booking, deck)
                failed first: skerry.deck.LaneTimeout: lane A3 was not free
                  in deck-2, "reserve lanes", at skerry.deck.Lanes.take(Lanes.java:42)
                no events for 290ms between "crossing asked for" in booking and "reserve lanes" in deck-2

                operation                   where          took  0                                                      300ms
                request POST /sailings 503  booking       300ms  ▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒  FAILED
                  reserve lanes             deck-2        280ms    ▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒    FAILED

                -- Friday, 2026-05-15, times of Europe/Berlin
                08:31:02.000 info  booking  skerry.booking         crossing asked for  booking=B0047113
                08:31:02.290 ERROR deck-2   skerry.deck            reserve lanes  elapsed=280ms outcome=failure
                    skerry.deck.LaneTimeout: lane A3 was not free
                      at skerry.deck.Lanes.take(Lanes.java:42)
                08:31:02.300 ERROR booking  skerry.booking         request  method=POST path=/sailings status=503 elapsed=300ms outcome=failure
                """, output);
        assertEquals(
                "to see what else happened when it failed: graphema around 'instance = deck-2 and time ="
                        + " 2026-05-15T06:31:02.290Z and message = \"reserve lanes\"' --in " + logs + "\n",
                error);
    }

    @Test
    void trailAsJsonIsTheEventsAlone() {
        assertEquals(0, run("trail", TRACE, "--as", "json", "--in", logs.toString()));
        assertEquals(3, output.lines().count());
        assertTrue(output.lines().allMatch(line -> line.startsWith("{\"time\":")));
    }

    @Test
    void trailTakesTheValueOfAnyAttribute() {
        for (Attribute attribute : Attribute.values()) {
            int code = run("trail", attribute.text() + " = info", "--in", logs.toString());
            assertEquals(attribute == Attribute.LEVEL ? 0 : 1, code, attribute + ": " + error);
        }
        assertEquals(2, run("trail", "level = infa", "--in", logs.toString()));
        assertTrue(error.contains("did you mean info?"), error);
    }

    @Test
    void aTraceThatIsNotThereIsReportedWithWhatWasRead() {
        assertEquals(1, run("trail", "abcdef", "--in", logs.toString()));
        assertEquals("no event of a trace abcdef; 4 read in 2 files\n", error);
    }

    @Test
    void tooFewDigitsOfATraceAreAnsweredWithTheCandidates() throws IOException {
        Files.writeString(
                logs.resolve("more.jsonl"),
                "{\"time\":\"2026-05-15T06:00:00Z\",\"trace\":\"4bf9000000000000000000000000000a\"}\n");
        assertEquals(2, run("trail", "4bf9", "--in", logs.toString()));
        assertEquals(
                "graphema: 2 traces begin with 4bf9: expected more digits, as in 4bf9000000000000000000000000000a, "
                        + TRACE + "\n",
                error);
    }

    @Test
    void checkReportsEveryMistakeInASettingsFile() throws IOException {
        Path file = Files.writeString(folder.resolve("deck.yaml"), "servise: deck\nlevels: {skerry: inof}\n");
        assertEquals(2, run("check", file.toString()));
        assertEquals("", output);
        assertEquals(
                file
                        + ":1:1: unknown key \"servise\" in the settings: expected one of service, instance, levels, caller, context-out, context-in, context-hosts, trust-callers, redaction,"
                        + " sampling, hold-back, sinks, routes, routing, detail-from-callers, watch, spool, synchronous, include, profile, profiles; did you mean service?\n"
                        + file
                        + ":2:18: \"inof\" is not a valid level: expected one of trace, debug, info, warn, error, fatal, off; did you"
                        + " mean info?\n2 mistakes\n",
                error);
        Files.writeString(file, "service: deck\n");
        assertEquals(0, run("check", file.toString()));
        assertEquals(file + ": no errors; 1 sink, 0 routes, 0 sampling rules\n", output);
        assertEquals(2, run("check", folder.resolve("none.yaml").toString()));
        assertEquals(
                "graphema: there is no file or folder " + folder.resolve("none.yaml") + "; check the path\n", error);
    }

    @Test
    void tallyCountsValuesWithTheirShareAndReportsHowToSeeThem() {
        assertEquals(0, run("tally", "service,level", "logger starts skerry", "--in", logs.toString()));
        assertEquals("""
                service  level  count   share
                booking  error      1   25.0%  ████████
                booking  info       1   25.0%  ████████
                deck     error      1   25.0%  ████████
                deck     info       1   25.0%  ████████
                """, output);
        assertEquals(
                "4 values, 4 events; 4 read in 2 files\nto see the first: graphema find 'logger starts skerry and service ="
                        + " booking and level = error' --in " + logs + "\n",
                error);
        assertEquals(0, run("tally", "service,level", "level = info and service exists", "--in", logs.toString()));
        assertTrue(error.contains("find 'level = info and service exists and service = booking' --in"), error);
    }

    @Test
    void tallyShowsMissingValuesAndTheFirstFew() {
        assertEquals(0, run("tally", "lock_wait_ms", "--limit", "1", "--in", logs.toString()));
        assertTrue(output.contains("(missing)         3   75.0%"), output);
        assertTrue(error.contains("the first 1 of 2 values, 4 events"), error);
        assertTrue(error.contains("find 'lock_wait_ms missing' --in"), error);
        assertEquals(1, run("tally", "service", "level = fatal", "--in", logs.toString()));
        misused(
                "graphema: \"service,\" has an empty name: expected names separated by commas, as in service,instance\n",
                "tally",
                "service,",
                "--in",
                logs.toString());
    }

    @Test
    void countsThatAreEstimatesAreMarked() throws IOException {
        Files.writeString(
                logs.resolve("gate.jsonl"),
                "{\"time\":\"2026-05-15T06:00:00Z\",\"message\":\"heartbeat\",\"weight\":20}\n");
        assertEquals(0, run("tally", "message", "--in", logs.toString()));
        assertTrue(output.contains("heartbeat             ~20             2 to 164   83.3%"), output);
        assertTrue(output.contains("next day                1                exact    4.2%"), output);
        assertTrue(error.contains("5 values, 5 events that represent ~24 (5 to 150 with 99 % confidence);"), error);
    }
}
