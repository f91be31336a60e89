package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class CompletionTest extends CommandFixture {
    @Test
    void everyVerbIsListedAndCompleted() throws IOException {
        List<String> verbs;
        try (Stream<Path> files = Files.walk(Path.of("src/main/java/dev/graphema/cli"))) {
            verbs = files.map(file -> file.getFileName().toString())
                    .filter(name -> name.matches("(?!Finding).+Verb\\.java"))
                    .map(name -> name.substring(0, name.indexOf("Verb")).toLowerCase(java.util.Locale.ROOT))
                    .sorted()
                    .toList();
        }
        assertEquals(verbs, Main.OWN);
        assertEquals(0, run("--help"));
        for (String verb : verbs) {
            assertTrue(output.contains("\n  " + verb + " "), verb + " in: " + output);
        }
    }

    @ParameterizedTest
    @CsvSource({"graphema fi, fields find", "graphema find --ol, --oldest", "graphema tally --perc, --percentiles"})
    void bashCompletesVerbsAndOptions(String line, String expected) throws Exception {
        assumeTrue(Files.isExecutable(Path.of("/bin/bash")), "needs bash: install it to run this test");
        assertEquals(0, run("completion", "bash"));
        Path script = Files.writeString(folder.resolve("completion"), output);
        String words = "COMP_WORDS=(" + line + "); COMP_CWORD=$((${#COMP_WORDS[@]} - 1)); ";
        Process shell = new ProcessBuilder(
                        "/bin/bash", "-c", ". '" + script + "'; " + words + "_graphema; echo \"${COMPREPLY[@]}\"")
                .start();
        assertEquals(expected, new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip());
        assertEquals("", new String(shell.getErrorStream().readAllBytes(), StandardCharsets.UTF_8));
    }

    /** What the completion system of zsh provides is replaced by functions that print. */
    @ParameterizedTest
    @CsvSource({"graphema fi, 2, find", "graphema find --ol, 3, --oldest", "graphema find lo, 3, files"})
    void zshOffersVerbsOptionsAndFiles(String line, int current, String expected) throws Exception {
        assumeTrue(Files.isExecutable(Path.of("/usr/bin/zsh")), "needs zsh: install it to run this test");
        assertEquals(0, run("completion", "zsh"));
        assertTrue(output.startsWith("#compdef graphema\n"), output);
        Path script = Files.writeString(folder.resolve("completion"), output);
        String given =
                "compdef() {}; compadd() { shift; print -- \"$@\" }; _files() { print files }; . '" + script + "'; ";
        String words = "words=(" + line + "); CURRENT=" + current + "; _graphema";
        Process shell = new ProcessBuilder("/usr/bin/zsh", "-f", "-c", given + words).start();
        String offered = new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
        assertTrue(List.of(offered.split(" ")).contains(expected), offered);
        assertEquals("", new String(shell.getErrorStream().readAllBytes(), StandardCharsets.UTF_8));
    }

    @Test
    void otherShellsAreRejected() {
        misused("graphema: there is no completion for \"fish\": expected bash or zsh\n", "completion", "fish");
    }
}
