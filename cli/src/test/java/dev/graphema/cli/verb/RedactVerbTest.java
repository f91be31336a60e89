package dev.graphema.cli.verb;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.cli.CommandFixture;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;

class RedactVerbTest extends CommandFixture {
    @Test
    void aTrialShowsBeforeAfterHitsAndNearMisses() {
        assertEquals(0, run("redact", "card 4111 1111 1111 1111, ssn 078051120", "lane A3"));
        assertEquals("""
                by the defaults

                before  card 4111 1111 1111 1111, ssn 078051120
                after   card [redacted payment-card], ssn 078051120
                  hit   payment-card  4111 1111 1111 1111  ->  [redacted payment-card]
                  near  us-ssn        078051120  nine digits in a right range, without dashes or blanks between them

                before  lane A3
                after   lane A3
                  nothing is redacted
                """, output);
    }

    @Test
    void theRulesAreThoseOfTheSettingsAndLinesComeFromStandardInput() throws IOException {
        Path file = Files.writeString(folder.resolve("deck.yaml"), """
                redaction:
                  detect: [mail]
                  treat: {mail: mask, booking: last 3}
                  patterns: {booking: {find: "B[0-9]{7}", when: B}}
                """);
        input = new ByteArrayInputStream("ada@mail.example holds B0047113\n".getBytes(StandardCharsets.UTF_8));
        assertEquals(0, run("redact", "--settings", file.toString()));
        assertTrue(output.contains("after   ***@****.******* holds *****113\n"), output);
    }

    @Test
    void aCheckReportsWhereLogsLeakAndNeverWhat() throws IOException {
        assertEquals(0, run("redact", "--check", "--in", logs.toString()));
        assertEquals("no leak in 4 lines of 2 files, by the defaults\n", output);
        Path leaking = logs.resolve("leak.jsonl");
        Files.writeString(
                leaking,
                "{\"time\":\"2026-05-15T06:31:02Z\",\"message\":\"to ada@mail.example\",\"fields\":{\"p\":{\"card\":4111111111111111}}}\n"
                        + "no event 4111111111111111\n");
        assertEquals(1, run("redact", "--check", "--in", logs.toString()));
        assertTrue(output.contains("payment-card  p.card               1  " + leaking + ":1\n"), output);
        assertTrue(output.contains("payment-card  line                 1  " + leaking + ":2\n"), output);
        assertTrue(output.contains("mail          message              1  " + leaking + ":1\n"), output);
        assertFalse(output.contains("4111") || output.contains("ada@"), output);
    }

    @Test
    void theCorpusIsMeasured() {
        assertEquals(
                0,
                run(
                        "redact",
                        "--corpus",
                        Path.of("..", "examples", "redaction", "corpus.tsv").toString()));
        assertTrue(output.startsWith("detector       found  missed  wrong  recall  precision\n"), output);
    }

    @Test
    void whatDoesNotGoTogetherIsMisuse() {
        misused(
                "graphema: --in is for logs that are checked: add --check, or name a text to try\n",
                "redact",
                "--in",
                "x");
        misused(
                "graphema: --check searches logs: expected --in FILE or DIR, and no text\n",
                "redact",
                "--check",
                "text");
    }
}
