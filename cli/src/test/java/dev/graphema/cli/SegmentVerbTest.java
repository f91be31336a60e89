package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Logs are converted into segments, and all search commands give the same answers over them. */
class SegmentVerbTest extends CommandFixture {
    private static final Path DAY = Path.of("..", "examples", "day");

    @ParameterizedTest
    @ValueSource(
            strings = {
                "find|level >= error and service = booking|--limit|5",
                "find|\"not free\"|--oldest|--limit|3|--whole",
                "tally|service,instance,message|level >= error",
                "tally|service|--of|lock_wait_ms",
                "timeline|level >= error|--by|instance",
                "faults",
                "fields|level >= error",
                "trail|booking=B0047117",
                "around|instance = deck-2 and sequence = 323|--show|3",
                "contrast|--since|2026-05-15T06:55|--to|2026-05-15T07:42|--limit|6"
            })
    void answersOverSegmentsAreThose(String words) {
        String segments = folder.resolve("segments").toString();
        assertEquals(0, run("segment", "--in", DAY.toString(), "--to", segments), error);
        int code = run(command(words, DAY.toString()));
        String expected = output;
        assertEquals(code, run(command(words, segments)), error);
        assertEquals(expected, output);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "find|level >= error and service = booking|--limit|5",
                "tally|service,instance,message|level >= error",
                "tally|service|--of|lock_wait_ms",
                "timeline|level >= error|--by|instance",
                "faults",
                "trail|booking=B0047117"
            })
    void answersOverAStoreAreThose(String words) {
        String store = folder.resolve("stores").resolve("one").toString();
        assertEquals(0, run("store", "--in", DAY.toString(), "--to", store), error);
        int code = run(command(words, DAY.toString()));
        String expected = output;
        assertEquals(code, run(command(words, store)), error);
        assertEquals(expected, output);
        // A folder that contains a store is read as that store, even if it has other files.
        assertEquals(code, run(command(words, folder.resolve("stores").toString())), error);
        assertEquals(expected, output);
    }

    private static String[] command(String words, String logs) {
        List<String> all = new ArrayList<>(List.of(words.split("\\|")));
        all.addAll(List.of("--zone", "+01:00", "--in", logs));
        return all.toArray(new String[0]);
    }

    @Test
    void eachFileIsConvertedOnceAndChecked() throws IOException {
        Path logs = Files.createDirectory(folder.resolve("gates"));
        Files.copy(DAY.resolve("gate-1.jsonl.gz"), logs.resolve("gate.jsonl.gz"));
        Files.writeString(logs.resolve("gate.jsonl"), "no event\n");
        String segments = folder.resolve("segments").toString();

        assertEquals(0, run("segment", "--in", logs.toString(), "--to", segments), error);
        assertTrue(output.contains("gate.jsonl: 1 line, 9 bytes; in the segment, "), output);
        assertTrue(output.contains("gate.jsonl.gz: 1,041 lines, 346 kB; in the segment, "), output);
        assertTrue(Files.exists(Path.of(segments, "gate.jsonl.gseg"))
                && Files.exists(Path.of(segments, "gate.jsonl-2.gseg")));
        assertEquals(0, run("segment", "--in", logs.toString(), "--to", segments), error);
        assertTrue(output.contains("is there already"), output);
        assertEquals(0, run("segment", "--check", "--in", segments), error);
        assertTrue(error.contains("2 segments, 0 damaged"), error);

        Path damaged = Path.of(segments, "gate.jsonl-2.gseg");
        byte[] bytes = Files.readAllBytes(damaged);
        for (int i = 8; i < bytes.length / 2; i += 64) {
            bytes[i] ^= 1;
        }
        Files.write(damaged, bytes);
        assertEquals(2, run("segment", "--check", "--in", segments));
        assertTrue(output.contains("the block at byte 8 is damaged; it only makes searching faster"), output);
        assertTrue(output.contains("is damaged; its events are left out"), output);
        assertEquals(2, run("find", "--in", segments));
    }

    @Test
    void aSegmentBesideItsLogIsNotReadAsWell() throws IOException {
        Path gates = Files.createDirectory(folder.resolve("gates"));
        Files.copy(DAY.resolve("gate-1.jsonl.gz"), gates.resolve("gate.jsonl.gz"));
        assertEquals(0, run("tally", "level", "--in", gates.toString()), error);
        String expected = output;
        assertEquals(0, run("segment", "--in", gates.toString(), "--to", gates.toString()), error);
        assertEquals(0, run("tally", "level", "--in", gates.toString()), error);
        assertEquals(expected, output);
        String segment = gates.resolve("gate.jsonl.gseg").toString();
        assertEquals(0, run("tally", "level", "--in", segment), "asked for alone, it is read: " + error);
        assertEquals(expected, output);
        Files.delete(gates.resolve("gate.jsonl.gz"));
        assertEquals(0, run("tally", "level", "--in", gates.toString()), error);
        assertEquals(expected, output);
    }

    @Test
    void wrongUseIsExplained() {
        misused(
                "graphema: there is no folder for the segments: expected --to and a folder\n",
                "segment",
                "--in",
                DAY.toString());
        misused(
                "graphema: no .gseg file and no store there; name segments or another folder with --in\n",
                "segment",
                "--check",
                "--in",
                DAY.toString());
    }
}
