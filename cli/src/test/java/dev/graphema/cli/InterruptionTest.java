package dev.graphema.cli;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Ctrl-C, as a terminal sends it to the real command: it shows what it has found so far, and ends. */
class InterruptionTest {
    /** What a shell has a process end with after that signal. */
    private static final int INTERRUPTED = 128 + 2;

    @TempDir
    Path folder;

    private Process process;
    private BufferedReader output;

    @BeforeEach
    void isPossible() throws Exception {
        assumeTrue(ends("env", "--default-signal=INT", "true"), "no env here that gives a process its signals back");
        assumeTrue(ends("kill", "-l"), "no kill here");
    }

    @AfterEach
    void end() {
        if (process != null) {
            process.destroyForcibly();
        }
    }

    @Test
    void watchReportsHowMuchItHasSeen() throws Exception {
        Path file = Files.writeString(folder.resolve("deck.jsonl"), line("old"));
        command("watch", "--before", "1", "--in", folder.toString());
        awaitLine("old");
        Files.writeString(file, line("new"), StandardOpenOption.APPEND);
        awaitLine("new");
        interrupt();

        String output = endedWith();
        assertTrue(output.contains("1 new event"), output);
        assertFalse(output.contains("Exception"), output);
    }

    @Test
    void aStreamThatIsShownLiveEndsWithoutAWord() throws Exception {
        command("find", "--in", "-");
        Writer input = process.outputWriter(StandardCharsets.UTF_8);
        input.write(line("first"));
        input.flush();
        awaitLine("first");
        interrupt();

        assertEquals("", endedWith());
        input.close(); // not before: the end of the stream would be an end of its own
    }

    private void command(String... arguments) throws IOException {
        List<String> command = new ArrayList<>(List.of("env", "--default-signal=INT"));
        command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
        command.addAll(List.of("-cp", System.getProperty("java.class.path"), Main.class.getName()));
        command.addAll(List.of(arguments));
        process = new ProcessBuilder(command)
                .redirectError(folder.resolve("output").toFile())
                .start();
        output = new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
    }

    private void awaitLine(String part) throws IOException {
        String line;
        do {
            line = output.readLine();
            assertTrue(line != null, "ended without " + part);
        } while (!line.contains(part));
    }

    private void interrupt() throws Exception {
        assertTrue(ends("kill", "-INT", String.valueOf(process.pid())));
    }

    private String endedWith() throws Exception {
        assertTrue(process.waitFor(5, TimeUnit.MINUTES), "still running");
        String output = Files.readString(folder.resolve("output"));
        assertEquals(INTERRUPTED, process.exitValue(), output);
        return output;
    }

    private static boolean ends(String... command) throws InterruptedException {
        try {
            return new ProcessBuilder(command)
                            .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                            .redirectError(ProcessBuilder.Redirect.DISCARD)
                            .start()
                            .waitFor()
                    == 0;
        } catch (IOException e) {
            return false;
        }
    }

    private static String line(String message) {
        return "{\"time\":\"2026-05-15T06:31:02.000Z\",\"level\":\"info\",\"message\":\"" + message + "\"}\n";
    }
}
