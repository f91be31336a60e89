package dev.graphema.lines;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.Window;
import dev.graphema.query.answer.CountTable;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.answer.FoundEvents;
import dev.graphema.query.contract.Samples;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * What is read of a log for a question, in what is the same on every machine: bytes, and lines that are read as a whole. The latter have something in
 * them that only the reading of all of a line complains of.
 */
class ReadingCostTest {
    private static final String BROKEN = "{\"a\":nul}";

    @TempDir
    Path folder;

    @Test
    void linesThatCannotMatchAreNotRead() throws IOException {
        Asked logs = logs(1_000, "info", BROKEN).where("level >= warn");
        CountTable tally = logs.counts("service");
        assertEquals(1_000, tally.coverage().events());
        assertEquals(0, tally.coverage().damagedCount());
        assertEquals(
                0,
                logs(1_000, "info", BROKEN)
                        .where("lane = B7")
                        .newest(10)
                        .coverage()
                        .damagedCount());
    }

    @Test
    void ofLinesThatMatchOnlyWhatIsLookedAtIsRead() throws IOException {
        CountTable tally = logs(1_000, "warn", BROKEN).counts("service", "lane");
        assertEquals(List.of("deck", "A3"), tally.rows().get(0).values());
        assertEquals(1_000, tally.rows().get(0).events().count());
        assertEquals(0, tally.coverage().damagedCount());
    }

    @Test
    void onlyTheNewestAreReadAsAWhole() throws IOException {
        FoundEvents newest = logs(1_000, "warn", BROKEN).newest(5);
        assertEquals(1_000, newest.matching());
        assertEquals(5, newest.coverage().damagedCount());
    }

    @Test
    void ofASortedFileOnlyTheWindowIsRead() throws IOException {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 86_400; i++) {
            text.append(Samples.text(Samples.event(i * 1_000L, "lane taken")));
        }
        Path file = Files.writeString(folder.resolve("day.jsonl"), text);
        long from = Samples.START + 3_600_000_000_000L;
        Coverage coverage = Asked.at(file)
                .during(new Window(from, from + 60_000_000_000L))
                .newest(10)
                .coverage();
        assertTrue(coverage.bytes() < Files.size(file) / 20, coverage.bytes() + " of " + Files.size(file));
    }

    private Asked logs(int lines, String level, String nested) throws IOException {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < lines; i++) {
            text.append(line("2026-05-15T06:00:00.%09dZ".formatted(i), level, nested));
        }
        return Asked.at(Files.writeString(folder.resolve("log.jsonl"), text));
    }

    private static String line(String time, String level, String nested) {
        return "{\"time\":\"" + time + "\",\"level\":\"" + level
                + "\",\"service\":\"deck\",\"message\":\"lane taken\",\"fields\":{\"lane\":\"A3\",\"x\":" + nested
                + "}}\n";
    }
}
