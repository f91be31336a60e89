package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** How the lines of logs are read: shown, stored, corrected, and used by other commands. */
class ShapeVerbTest extends CommandFixture {
    private Path log;

    @BeforeEach
    void writeLog() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 4; i++) {
            lines.append(
                    "{\"event\":\"lane reserved\",\"lane\":\"A%d\",\"when\":\"2026-11-23T05:01:5%dZ\",\"kind\":\"%s\"}\n"
                            .formatted(i, i, i == 1 ? "warning" : "info"));
        }
        log = Files.writeString(folder.resolve("booking.log"), lines);
    }

    @Test
    void whatNamesAreReadAsIsShownWithTheReason() {
        assertEquals(0, run("shape", "--in", log.toString()));
        assertEquals(log + ": 4 lines of JSON objects\n" + """
                        read as  name   lines  first value           because of
                        time     when       4  2026-11-23T05:01:50Z  its values
                        level    kind       4  info                  its values
                        message  event      4  lane reserved         its name
                        field    lane       4  A0

                        """, output);
    }

    @Test
    void whatIsStoredCanBeCorrectedAndIsUsed() throws IOException {
        assertEquals(0, run("shape", "--save", "--in", folder.toString()));
        Path stored = folder.resolve("graphema-shape.yaml");
        assertEquals("""
                # How the lines of these logs are read; inferred by graphema shape. Correct it where it is wrong.
                'booking.log*':
                  time: 'when'
                  level: 'kind'
                  message: 'event'
                """, Files.readString(stored));
        assertEquals(0, run("tally", "level", "--in", log.toString()));
        assertTrue(output.contains("warn"), output);
        Files.writeString(stored, "'*.log': {time: when, field: [kind, event]}\n");
        assertEquals(0, run("find", "kind = warning and event exists and level missing", "--in", log.toString()));
        assertEquals(2, run("shape", "--save", "--in", folder.toString()));
        assertTrue(error.contains("exists and may have been corrected"), error);
        assertEquals(
                0, run("find", "level = warn", "--map", "level=kind", "--in", log.toString()), "options come first");
    }

    @Test
    void aMistakeInAStoredShapeIsReportedWithItsLine() throws IOException {
        Path stored = folder.resolve("graphema-shape.yaml");
        for (String wrong : new String[] {
            "'*.log':\n  levl: kind|2: \"levl\" is not known: expected one of time, level,",
            "'*.log':\n  dates: french|2: \"french\" is not a valid order of dates: expected day-first or month-first",
            "'*.log': [a|2: not YAML: ",
            "- a|1: expected a mapping with names of files",
            "'*.log':\n  zones: IST|2: \"IST\" is not a valid zone: expected a name and its offset, such as IST=+05:30",
            "'*.log':\n  pattern: '('|2: \"(\" is not a valid pattern in RE2 syntax"
        }) {
            String[] parts = wrong.split("\\|");
            Files.writeString(stored, parts[0] + "\n");
            assertEquals(2, run("find", "--in", log.toString()), wrong);
            assertTrue(error.contains(stored + ":" + parts[1]), error);
            assertFalse(error.contains("Exception"), error);
        }
    }

    @Test
    void optionsDefineWhatALogDoesNotShow() throws IOException {
        Path file = Files.writeString(
                folder.resolve("gate.log"),
                "11/12/2026 05:01:56 IST gate opened\n11/12/2026 05:01:57 IST gate closed\n");
        assertEquals(0, run("find", "--in", file.toString()));
        assertTrue(error.startsWith("2 events read in part: "), error);
        assertEquals(
                0,
                run(
                        "find",
                        "time = 2026-12-10T23:31:56Z",
                        "--dates",
                        "day-first",
                        "--zones",
                        "IST=+05:30",
                        "--in",
                        file.toString()));
        assertTrue(output.contains("gate opened"), output);
        assertEquals(2, run("find", "--dates", "both", "--in", file.toString()));
        assertTrue(error.contains("expected day-first or month-first"), error);
        Path other = Files.writeString(folder.resolve("lane.log"), "26/12/10 23.31.56 ERROR lane closed\n");
        assertEquals(0, run("find", "level = error", "--time-format", "yy/MM/dd HH.mm.ss", "--in", other.toString()));
        assertTrue(output.contains("lane closed"), output);
    }
}
