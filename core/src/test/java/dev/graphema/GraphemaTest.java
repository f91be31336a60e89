package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.runtime.BeforeStart;
import dev.graphema.sink.MemorySink;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class GraphemaTest {
    @TempDir
    private Path folder;

    @Test
    void aSettingsFileIsEnoughToHaveEventsInAFile() throws IOException {
        Path log = folder.resolve("logs/deck.jsonl");
        Path settings = Files.writeString(folder.resolve("graphema.yaml"), """
                service: deck
                sinks:
                  log: {type: file, path: "%s"}
                """.formatted(log));
        try (Graphema graphema = Graphema.start(settings)) {
            Logger.of(GraphemaTest.class).info("seat held", f -> f.put("remark", "4111 1111 1111 1111"));
        }

        List<String> lines = Files.readAllLines(log);
        assertEquals(1, lines.size());
        assertTrue(lines.get(0).contains("\"service\":\"deck\""), lines.get(0));
        assertTrue(lines.get(0).contains("[redacted payment-card]"), lines.get(0));
    }

    @Test
    void aSinkThatCannotBeOpenedFailsTheStartAndLeavesNothingOpen() throws IOException {
        Path blocked = Files.writeString(folder.resolve("file"), "");

        GraphemaException e = assertThrows(
                GraphemaException.class,
                () -> Graphema.isolated(settings ->
                        settings.file("good", folder.resolve("good.jsonl")).file("bad", blocked.resolve("bad.jsonl"))));

        assertTrue(e.getMessage().startsWith("the sink bad cannot be opened: "), e.getMessage());
        assertTrue(Thread.getAllStackTraces().keySet().stream()
                .noneMatch(t -> t.getName().equals("graphema-good")));
    }

    @Test
    void closingTwiceIsNoFaultAndLateEventsAreCounted() {
        TestRuntime runtime = TestRuntime.start();
        runtime.close();
        runtime.close();
        runtime.logger("skerry").error("late");

        assertEquals(1, runtime.graphema().late());
        assertEquals(0, runtime.graphema().accepted());
        assertEquals(Map.of(), runtime.graphema().lost().get("memory"));
    }

    @Test
    void beforeTheStartWarningsAndWorseAreSeenAndRedacted() {
        ByteArrayOutputStream stream = new ByteArrayOutputStream();
        BeforeStart before = new BeforeStart(new PrintStream(stream, true, StandardCharsets.UTF_8));
        before.accept(new Draft().time(0).level(Level.WARN).logger("skerry").message("card 4111111111111111"), 0);

        String text = stream.toString(StandardCharsets.UTF_8);
        assertTrue(text.contains("WARN"), text);
        assertTrue(text.contains("[redacted payment-card]"), text);
        assertFalse(text.contains("4111"), text);
    }

    @Test
    void anEventBeforeTheStartIsReportedOnceWithWhatToDo() throws Exception {
        Process program = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        NotStarted.class.getName())
                .start();
        String printed = new String(program.getErrorStream().readAllBytes(), StandardCharsets.UTF_8);
        assertEquals(0, program.waitFor());
        assertEquals("""
                graphema: an event was emitted, but Graphema is not started: events below warn are dropped. Call \
                Graphema.start() at the beginning of the program
                graphema: started; 3 events below warn before the start were dropped
                """, printed.replace(System.lineSeparator(), "\n"));
    }

    /** A program that emits events before it starts Graphema. */
    public static final class NotStarted {
        public static void main(String[] arguments) {
            Logger log = Logger.of(NotStarted.class);
            log.debug("not counted");
            log.info("seat held");
            log.info("seat held");
            log.info("seat held");
            Graphema.build(settings -> settings.sink("memory", new MemorySink()))
                    .close();
        }
    }

    @Test
    void whatWasAcceptedIsWrittenWhenTheProcessEndsByItself() throws Exception {
        assertEquals(0, runProgram("end"));
        assertEquals(1_000, Files.readAllLines(folder.resolve("program.jsonl")).size());
    }

    @Test
    void whatWasAcceptedIsWrittenWhenTheProcessIsAskedToEnd() throws Exception {
        Process program = program("wait");
        // The program reports when it has emitted all events.
        assertEquals('\n', program.getInputStream().read());
        program.destroy();
        assertTrue(program.waitFor(5, TimeUnit.MINUTES));

        assertEquals(1_000, Files.readAllLines(folder.resolve("program.jsonl")).size());
    }

    private int runProgram(String how) throws Exception {
        Process program = program(how);
        assertTrue(program.waitFor(5, TimeUnit.MINUTES));
        return program.exitValue();
    }

    private Process program(String how) throws IOException {
        return new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        Program.class.getName(),
                        folder.resolve("program.jsonl").toString(),
                        how)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
    }

    /** Emits a thousand events and then ends without closing, or waits to be ended. */
    static final class Program {
        public static void main(String[] arguments) throws InterruptedException {
            Graphema.build(settings -> settings.file("log", Path.of(arguments[0])));
            Logger log = Logger.of(Program.class);
            for (int i = 0; i < 1_000; i++) {
                int number = i;
                log.info("event", f -> f.put("number", number));
            }
            if (arguments[1].equals("wait")) {
                System.out.println();
                Thread.sleep(60_000);
            }
        }
    }
}
