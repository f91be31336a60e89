package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.Sink;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Processes that end in every way but by being killed. */
class ProcessEndTest {
    private static final int EVENTS = 3_000;

    @TempDir
    Path folder;

    @Test
    void whatWasAcceptedIsWrittenWhenTheProcessExitsWhileAnotherThreadIsClosing() throws Exception {
        run("closing");

        assertEquals(EVENTS, lines("slow").size());
    }

    @Test
    void whatTheProgramsOwnShutdownHooksLogIsWrittenUntilTheEnd() throws Exception {
        String output = run("hooks");

        List<String> lines = lines("log.jsonl");
        assertEquals(EVENTS + 1_000, lines.size(), output);
        assertTrue(lines.get(lines.size() - 1).contains("\"number\":999"), lines.get(lines.size() - 1));
    }

    @Test
    void aHeapThatIsExhaustedForAWhileCostsNoThreadOfTheRuntime() throws Exception {
        String output = run("heap", "-Xmx64m");

        assertTrue(output.contains("survived"), output);
        List<String> lines = lines("log.jsonl");
        assertTrue(lines.get(lines.size() - 1).contains("after the shortage"), lines.get(lines.size() - 1));
    }

    private List<String> lines(String file) throws IOException {
        return Files.readAllLines(folder.resolve(file));
    }

    private String run(String how, String... options) throws Exception {
        List<String> command = new ArrayList<>();
        command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
        command.addAll(List.of(options));
        command.addAll(
                List.of("-cp", System.getProperty("java.class.path"), Program.class.getName(), folder.toString(), how));
        Process process = new ProcessBuilder(command).redirectErrorStream(true).start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertTrue(process.waitFor(5, TimeUnit.MINUTES));
        assertEquals(0, process.exitValue(), output);
        return output;
    }

    static final class Program {
        private static final Logger log = Logger.of(Program.class);

        public static void main(String[] arguments) throws Exception {
            Path folder = Path.of(arguments[0]);
            switch (arguments[1]) {
                case "closing" -> closing(folder.resolve("slow"));
                case "hooks" -> hooks(folder.resolve("log.jsonl"));
                default -> heap(folder.resolve("log.jsonl"));
            }
        }

        /** The sink takes two seconds for all events, and the process exits in the middle of the closing. */
        private static void closing(Path file) {
            Graphema graphema = Graphema.build(settings -> settings.sink("slow", new SlowSink(file)));
            for (int i = 0; i < EVENTS; i++) {
                log.info("m");
            }
            Thread closer = new Thread(graphema::close);
            closer.setDaemon(true);
            closer.start();
            System.exit(0);
        }

        private static void hooks(Path file) {
            Graphema.build(settings -> settings.file("log", file));
            for (int i = 0; i < EVENTS; i++) {
                int number = i;
                log.info("before", f -> f.put("number", number));
            }
            Runtime.getRuntime().addShutdownHook(new Thread(() -> {
                for (int i = 0; i < 1_000; i++) {
                    int number = i;
                    log.info("in a hook", f -> f.put("number", number));
                }
            }));
            System.exit(0);
        }

        private static void heap(Path file) throws Exception {
            Graphema graphema = Graphema.build(settings -> settings.sink("log", SinkSettings.file(file)));
            List<byte[]> all = new ArrayList<>();
            Thread hungry = new Thread(() -> {
                for (int shortages = 0; shortages < 50; ) {
                    try {
                        all.add(new byte[64 * 1024]);
                    } catch (OutOfMemoryError e) {
                        shortages++;
                        all.clear();
                    }
                }
            });
            hungry.start();
            while (hungry.isAlive()) {
                try {
                    log.warn("during the shortage", f -> f.put("text", "x".repeat(1000)));
                } catch (OutOfMemoryError e) {
                    continue; // the one error that a caller may see
                }
                java.util.concurrent.locks.LockSupport.parkNanos(200_000);
            }
            hungry.join();
            graphema.flush(java.time.Duration.ofSeconds(20));
            log.warn("after the shortage");
            if (graphema.flush(java.time.Duration.ofSeconds(20))) {
                System.out.println("survived");
            }
        }
    }

    private static final class SlowSink implements Sink {
        private final Path file;
        private final StringBuilder gathered = new StringBuilder();

        SlowSink(Path file) {
            this.file = file;
        }

        @Override
        public void write(Event event) {
            gathered.append(event.message()).append('\n');
        }

        @Override
        public void flush() throws IOException {
            java.util.concurrent.locks.LockSupport.parkNanos(150_000_000);
            Files.writeString(
                    file, gathered, java.nio.file.StandardOpenOption.CREATE, java.nio.file.StandardOpenOption.APPEND);
            gathered.setLength(0);
        }
    }
}
