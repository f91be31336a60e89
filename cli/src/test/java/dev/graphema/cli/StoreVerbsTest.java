package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

/** A store is written, tidied, checked, and forgets a person. */
class StoreVerbsTest extends CommandFixture {
    private static final Path DAY = Path.of("..", "examples", "day");

    @Test
    void standardInputIsStored() {
        String store = folder.resolve("store").toString();
        input = lines(
                "{\"time\":\"2026-05-15T06:00:00Z\",\"level\":\"info\",\"message\":\"one\"}\nno event\nwithout an end");
        assertEquals(0, run("store", "--to", store), error);
        assertEquals("3 lines stored in " + store + "\n", output);
        assertTrue(error.contains("to search them: graphema find 'level >= error' --in " + store), error);
        assertEquals(0, run("find", "--in", store, "--zone", "Z"), error);
        assertTrue(output.contains("one") && output.contains("no event") && output.contains("without an end"), output);
        assertEquals(0, run("segment", "--check", "--in", store), error);
        assertEquals("1 store, 0 damaged\n", error);
    }

    @Test
    void rulesAreAppliedAndReported() throws IOException {
        Path store = folder.resolve("store");
        assertEquals(0, run("store", "--in", DAY.toString(), "--to", store.toString()), error);
        assertEquals("13,800 lines stored in " + store + "\n", output);
        Files.writeString(store.resolve("rules.yaml"), "retention: {when: service = booking, keep: 1d}\n");
        Path copy = folder.resolve("copy");
        assertEquals(0, run("backup", "--in", store.toString(), "--to", copy.toString()), error);
        assertTrue(output.contains(copy + " is complete"), output);
        misused(
                "graphema: --to " + store.resolve("copy") + " is in the store itself: expected a folder elsewhere\n",
                "backup",
                "--in",
                store.toString(),
                "--to",
                store.resolve("copy").toString());
        assertEquals(0, run("tidy", "--in", store.toString()), error);
        assertTrue(output.endsWith("the rules have deleted 7,197 lines now\n"), output);
        assertEquals(1, run("find", "service = booking", "--in", store.toString()));
        assertEquals(0, run("find", "--in", store.resolve("deleted.jsonl").toString()), error);
        assertTrue(output.contains("rule 1: service = booking, keep: 1d"), output);
    }

    @Test
    void aPersonIsForgottenAlsoByItsPseudonym() throws IOException {
        Path store = folder.resolve("store");
        Path settings = Files.writeString(
                folder.resolve("graphema.yaml"),
                "redaction: {pseudonyms: {id: k1, key: 0123456789abcdef0123456789abcdef}}\n");
        input = lines("{\"message\":\"mara.lind@example.org\"}\n{\"message\":\"other\"}\n");
        assertEquals(0, run("store", "--to", store.toString()), error);
        assertEquals(0, run("forget", "mara.lind@example.org", "--in", store.toString()), error);
        assertEquals("1 line contains it\n", output);
        assertEquals("nothing is deleted yet: add --yes to delete them for good\n", error);
        String[] forget = {
            "forget", "mara.lind@example.org", "--in", store.toString(), "--redacted-by", settings.toString(), "--yes"
        };
        assertEquals(0, run(forget), error);
        assertEquals("1 line deleted; the text is in no file of " + store + " any more\n", output);
        assertEquals(1, run(forget), error);
        assertEquals("no line of " + store + " contains it\n", output);
        assertFalse(Files.readString(store.resolve("deleted.jsonl")).contains("mara"));
    }

    @Test
    void wrongUseIsExplained() throws IOException {
        misused("graphema: there is no folder for the store: expected --to and a folder\n", "store");
        misused("graphema: there is no store given: expected --in and its folder\n", "tidy");
        misused(
                "graphema: " + DAY + " is no store: expected a folder that \"store --to\" has made\n",
                "forget",
                "Mara",
                "--in",
                DAY.toString());
        Path store = folder.resolve("store");
        input = lines("one\n");
        assertEquals(0, run("store", "--to", store.toString()), error);
        misused(
                "graphema: the text \"M\" is in too many events: expected at least 4 characters of one line\n",
                "forget",
                "M",
                "--in",
                store.toString());
        Files.writeString(store.resolve("rules.yaml"), "retention: {keep: for ever}\n");
        assertEquals(2, run("tidy", "--in", store.toString()));
        assertTrue(error.contains("rules.yaml:1: \"for ever\" is not a duration: expected one such as 30d"), error);
    }

    private static InputStream lines(String lines) {
        return new ByteArrayInputStream(lines.getBytes(StandardCharsets.UTF_8));
    }
}
