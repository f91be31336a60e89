package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The verb overview. */
class OverviewTest extends CommandFixture {
    @TempDir
    Path folder;

    @Test
    void itShowsSourcesOverTimeWithProblemsAndReleases() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int minute = 0; minute < 30; minute++) {
            lines.append(line("gate-1", "info", minute, "heartbeat", ""));
            if (minute >= 20) {
                lines.append(line("deck-2", minute == 25 ? "warn" : "error", minute, "refused", ""));
            }
        }
        lines.append(line("deck-2", "info", 15, "service started", "\"release\":\"2.4.1\""));
        lines.append(line("gate-1", "info", 2, "settings changed", "\"settings\":\"graphema.yaml\""));
        Files.writeString(folder.resolve("a.jsonl"), lines);

        assertEquals(0, run("overview", "--step", "1m", "--zone", "UTC", "--in", folder.toString()));

        assertEquals("""
                          ▾ gate-1 settings changed
                                       ▾ deck-2 2.4.1
                deck-2                 █    ██████████
                                            xxxxxwxxxx
                gate-1  ▒▒█▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒▒
                        06:00     06:10     06:20
                Friday, 2026-05-15, times of UTC, a column is 1m; shades: events, relative to each row's most; w warnings, x errors, X 10 or more
                """.replaceAll("(?m) +$", ""), output.replaceAll("(?m) +$", ""));
        assertTrue(error.startsWith("42 events, 1 warning, 9 errors; 42 read in 1 file\nto see what failed: "), error);
    }

    @Test
    void withoutEventsThereIsNoMap() {
        assertEquals(1, run("overview", "message = none", "--in", logs.toString()));
        assertEquals("", output);
    }

    @Test
    void itHasOtherForms() {
        assertEquals(0, run("overview", "--by", "service", "--as", "csv", "--in", logs.toString()));
        assertTrue(
                output.startsWith("from,service,count,warnings,errors\r\n")
                        || output.startsWith("from,service,count,warnings,errors\n"),
                output);
        assertEquals(0, run("overview", "--by", "service", "--as", "json", "--in", logs.toString()));
        assertTrue(output.startsWith("{\"by\":{\"service\":"), output);
    }

    private static String line(String instance, String level, int minute, String message, String fields) {
        return "{\"time\":\"2026-05-15T06:%02d:30Z\",\"level\":\"%s\",\"service\":\"%s\",\"instance\":\"%s\",\"logger\":\"a.B\",\"message\":\"%s\",\"thread\":\"main\",\"sequence\":1,\"fields\":{%s}}\n"
                .formatted(minute, level, instance.substring(0, 4), instance, message, fields);
    }
}
