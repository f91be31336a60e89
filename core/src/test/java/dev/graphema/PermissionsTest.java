package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import dev.graphema.event.GraphemaException;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A folder in which the process may not write: a process without any rights but those of the files' owner. */
class PermissionsTest {
    private static final String NO_RIGHTS = "exec setpriv --securebits +noroot --bounding-set=-all --inh-caps=-all ";
    private static final int EVENTS = 300;
    private static final Duration LIMIT = Duration.ofMinutes(2);

    @TempDir
    Path folder;

    @Test
    void aFileThatCannotBeArchivedWithoutPermissionGrowsOn() throws IOException {
        String output = run("archive");

        assertTrue(output.contains("cannot be archived and continues to grow"), output);
        assertTrue(output.contains("lost {log={}}"), output);
        assertEquals(IntStream.range(0, 2 * EVENTS).boxed().toList(), numbers());
    }

    @Test
    void whatCannotBeWrittenWithoutPermissionWaitsUntilItIsGivenAgain() throws IOException {
        String output = run("removed");

        assertTrue(output.contains("cannot write (java.nio.file.AccessDeniedException"), output);
        assertTrue(output.contains("writes again, after"), output);
        assertTrue(output.contains("lost {log={}}"), output);
        List<Integer> numbers = numbers();
        int last = Integer.parseInt(output.replaceAll("(?s).*the last is ([0-9]+).*", "$1"));
        assertEquals(
                IntStream.rangeClosed(EVENTS, last).boxed().toList(),
                numbers.subList(numbers.indexOf(EVENTS), numbers.size()));
    }

    @Test
    void aStartWhereNothingMayBeWrittenIsRefusedWithTheReasonAndLoggingGoesOn() {
        String output = run("start");

        String why = "java.nio.file.AccessDeniedException: ";
        String next = "; check its path and who may write there";
        assertTrue(
                output.contains("refused: the sink log cannot be opened: " + why + folder.resolve("log.jsonl") + next),
                output);
        assertTrue(
                output.contains("refused: the sink durable cannot be opened: " + why + folder.resolve("spool") + next),
                output);
        assertTrue(output.contains("logged without a runtime"), output);
    }

    private List<Integer> numbers() throws IOException {
        return Files.readAllLines(folder.resolve("log.jsonl")).stream()
                .map(line -> Integer.valueOf(line.replaceAll(".*\"number\":([0-9]+).*", "$1")))
                .toList();
    }

    private String run(String how) {
        assumeTrue(NameSpace.run("setpriv --version").startsWith("setpriv"), "no name spaces here, or no setpriv");
        return NameSpace.run(NO_RIGHTS + NameSpace.java(Program.class, folder, how));
    }

    static final class Program {
        private static final Logger log = Logger.of(Program.class);

        public static void main(String[] arguments) throws Exception {
            Path folder = Path.of(arguments[0]);
            Path file = folder.resolve("log.jsonl");
            switch (arguments[1]) {
                case "archive" -> archive(file);
                case "removed" -> removed(file);
                default -> start(file);
            }
            permit(folder, "rwxr-xr-x");
        }

        private static void start(Path file) throws IOException {
            permit(file.getParent(), "r-xr-xr-x");
            refused(settings -> settings.file("log", file));
            refused(settings -> settings.spoolPath(file.resolveSibling("spool"))
                    .sink("durable", SinkSettings.file(Path.of("/dev/null")).durable(true)));
            log.error("logged without a runtime");
        }

        private static void refused(Consumer<Settings.Builder> settings) {
            try (Graphema graphema = Graphema.build(settings)) {
                System.err.println("started: " + graphema);
            } catch (GraphemaException e) {
                System.err.println("refused: " + e.getMessage());
            }
        }

        private static void archive(Path file) throws IOException {
            Graphema graphema = Graphema.build(
                    settings -> settings.sink("log", SinkSettings.file(file).set(FileKind.ROTATE_AT, 80L * 1024)));
            log(0, EVENTS);
            graphema.flush(LIMIT);
            permit(file.getParent(), "r-xr-xr-x");
            log(EVENTS, EVENTS);
            end(graphema);
        }

        private static void removed(Path file) throws IOException {
            Graphema graphema = Graphema.build(settings -> settings.file("log", file));
            log(0, EVENTS);
            graphema.flush(LIMIT);
            Files.delete(file);
            permit(file.getParent(), "r-xr-xr-x");
            int next = EVENTS;
            do {
                log(next++, 1);
            } while (graphema.flush(Duration.ofMillis(200)));
            permit(file.getParent(), "rwxr-xr-x");
            System.err.println("the last is " + (next - 1));
            end(graphema);
        }

        private static void end(Graphema graphema) {
            graphema.flush(LIMIT);
            System.err.println("lost " + graphema.lost());
            graphema.close();
        }

        private static void log(int from, int count) {
            for (int i = from; i < from + count; i++) {
                int number = i;
                log.info("x", f -> f.put("number", number));
            }
        }

        private static void permit(Path folder, String permissions) throws IOException {
            Files.setPosixFilePermissions(folder, PosixFilePermissions.fromString(permissions));
        }
    }
}
