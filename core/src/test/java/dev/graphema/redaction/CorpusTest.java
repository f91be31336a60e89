package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CorpusTest {
    private static final Path CORPUS = Path.of("..", "examples", "redaction", "corpus.tsv");

    @TempDir
    Path folder;

    @Test
    void theDetectorsFindWhatIsThereAndLittleElse() throws IOException {
        Corpus.Measured measured = Corpus.read(CORPUS).measure();
        assertTrue(measured.texts() >= 400, measured.lines()::toString);
        for (String checksummed : List.of("payment-card", "iban")) {
            assertEquals(1.0, measured.recall(checksummed), checksummed);
        }
        for (String name : Detectors.builtIn()) {
            assertTrue(measured.recall(name) >= 0.95, name + ": " + measured.lines());
        }
        assertTrue(measured.precision() >= 0.98, measured.lines()::toString);
    }

    @Test
    void aLineThatIsNotOfTheFormIsReportedWithItsPlace() throws IOException {
        Path file =
                Files.writeString(folder.resolve("corpus.tsv"), "# a comment\nmail\tada@mail.example\tnothing here\n");
        assertTrue(assertThrows(IOException.class, () -> Corpus.read(file))
                .getMessage()
                .startsWith(file + ":2: expected a detector or none"));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            us-ssn       | ssn 078051120 and on
            payment-card | card 4111 1111 1111 1112
            payment-card | card 4111.1111.1111.1111
            iban         | to gb82west12345698765432
            mail         | ada @mail.example
            mail         | ada at mail.example
            mail         | ada@localhost
            token        | Bearer abc
            """)
    void whatAlmostWasASecretIsReported(String detector, String text) {
        assertEquals(
                List.of(detector),
                NearMisses.of(text).stream().map(NearMisses.NearMiss::detector).toList());
    }

    @Test
    void whatIsHiddenIsNoNearMiss() {
        Redactor redactor =
                new Redactor(Detectors.builtIn().stream().map(Detectors::named).toList());
        assertEquals(
                List.of(),
                NearMisses.of(redactor.redact("card 4111 1111 1111 1111, ada@mail.example, lane A3, 2.4.1")));
    }
}
