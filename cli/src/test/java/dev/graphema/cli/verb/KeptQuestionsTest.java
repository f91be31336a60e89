package dev.graphema.cli.verb;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class KeptQuestionsTest {
    @TempDir
    private Path folder;

    @Test
    void whatWasAskedComesBackAsItWas() throws IOException {
        List<String> hostile = List.of("find", "a = \"b\\c\"", "\n\u001b[2J\u202e", "", "Å 🚢");
        questions().asked(hostile);
        questions().keep(new KeptQuestions.Question("a \"name\"", hostile));
        assertEquals(List.of(hostile), recent());
        assertEquals(hostile, questions().kept().get("a \"name\"").arguments());
        assertEquals(1, Files.readAllLines(folder.resolve("state/recent.jsonl")).size());
    }

    @Test
    void theLastFiftyAreRememberedOnceEach() throws IOException {
        for (int i : IntStream.range(0, 60).toArray()) {
            questions().asked(List.of("find", "number = " + i));
        }
        questions().asked(List.of("find", "number = 30"));
        assertEquals(50, recent().size());
        assertEquals(List.of("find", "number = 30"), recent().get(0));
        assertEquals(List.of("find", "number = 59"), recent().get(1));
    }

    @Test
    void onlyTheOwnerReadsThem() throws IOException {
        assumeTrue(FileSystems.getDefault().supportedFileAttributeViews().contains("posix"));
        questions().asked(List.of("find", "passenger = 4711"));
        questions().keep(new KeptQuestions.Question("it", List.of("find", "passenger = 4711")));
        for (String file : List.of("state/recent.jsonl", "config/kept.jsonl")) {
            assertEquals(
                    "rw-------", PosixFilePermissions.toString(Files.getPosixFilePermissions(folder.resolve(file))));
        }
        try (Stream<Path> beside = Files.list(folder.resolve("state"))) {
            assertEquals(1, beside.count());
        }
    }

    @Test
    void aLineThatIsNoQuestionIsReportedWithItsPlace() throws IOException {
        questions().asked(List.of("find"));
        Path file = folder.resolve("state/recent.jsonl");
        Files.writeString(file, Files.readString(file) + "{\"arguments\":[\n");
        String message = assertThrows(IOException.class, this::recent).getMessage();
        assertTrue(message.startsWith(file + ":2 is not a stored question: expected "), message);
    }

    private KeptQuestions questions() {
        return new KeptQuestions(folder.resolve("config/kept.jsonl"), folder.resolve("state/recent.jsonl"));
    }

    private List<List<String>> recent() throws IOException {
        return questions().recent().stream()
                .map(KeptQuestions.Question::arguments)
                .toList();
    }

    @Test
    void secretsInQuestionsAreNotRemembered() throws IOException {
        questions().asked(List.of("find", "mail = \"ann@skerry.example\""));
        assertEquals(List.of(List.of("find", "mail = \"[redacted mail]\"")), recent());
    }
}
