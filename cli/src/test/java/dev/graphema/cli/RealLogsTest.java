package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.File;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Answers to questions about logs of real programs are those of general tools, which count the lines themselves. */
class RealLogsTest extends CommandFixture {
    private static final Path LOGS = Path.of("..", "lines", "src", "test", "resources", "foreign");
    private static final Pattern WORD = Pattern.compile("'([^']*)'|(\\S+)");

    static Stream<String> questions() throws IOException {
        try (InputStream questions = RealLogsTest.class.getResourceAsStream("questions.txt")) {
            return new String(questions.readAllBytes(), StandardCharsets.UTF_8)
                    .lines().filter(line -> !line.isBlank() && !line.startsWith("#")).toList().stream();
        }
    }

    @ParameterizedTest
    @MethodSource("questions")
    void theAnswerIsThatOfAGeneralTool(String question) throws Exception {
        String[] parts = question.split(" \\| ", 3);
        String tool = parts[2].replace("{count}", "| wc -l | tr -d ' '")
                .replace("{values}", "| sort | uniq -c | sed -E 's/^ *([0-9]+) (.*)/\\2,\\1/'");
        // The file is the input of the first command.
        List<String> expected =
                shell("cat " + parts[0] + " | " + tool).lines().sorted().toList();
        assertEquals(0, run(words(parts[1] + " --limit 0 --as csv --in " + LOGS.resolve(parts[0]))), error);

        assertEquals(expected, output.lines().skip(1).sorted().toList());
    }

    private static String[] words(String command) {
        List<String> words = new ArrayList<>();
        Matcher word = WORD.matcher(command);
        while (word.find()) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1));
        }
        return words.toArray(new String[0]);
    }

    private static String shell(String command) throws IOException, InterruptedException {
        for (String tool : List.of("bash", "awk", "sed", command.contains("jq ") ? "jq" : "grep")) {
            assumeTrue(isInstalled(tool), tool + " is not installed, which answers the questions beside graphema");
        }
        Process process = new ProcessBuilder("bash", "-c", "export LC_ALL=C; " + command)
                .directory(LOGS.toFile())
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        process.waitFor(2, TimeUnit.MINUTES);
        return output;
    }

    private static boolean isInstalled(String tool) {
        return Stream.of(System.getenv("PATH").split(File.pathSeparator))
                .anyMatch(folder -> Path.of(folder, tool).toFile().canExecute());
    }
}
