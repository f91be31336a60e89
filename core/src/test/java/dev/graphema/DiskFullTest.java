package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * A real full disk: another process, in another name space, with a file system of one megabyte. Where
 * the machine does not allow that, there is nothing to test with.
 */
class DiskFullTest {
    private static final int EVENTS = 5_000;

    @TempDir
    Path folder;

    @Test
    void whatDidNotFitIsWrittenWhenThereIsRoomAgain() throws Exception {
        assumeTrue(NameSpace.isPossible(), "no name spaces here");
        Path disk = Files.createDirectory(folder.resolve("disk"));
        String output = NameSpace.run("mount -t tmpfs -o size=1m tmpfs '" + disk + "' && exec "
                + NameSpace.java(Program.class, disk, folder.resolve("copy.jsonl")));

        assertTrue(output.contains("cannot write (java.io.IOException: No space left on device)"), output);
        assertTrue(output.contains("writes again, after"), output);
        assertTrue(output.contains("lost {log={}}"), output);
        List<String> lines = Files.readAllLines(folder.resolve("copy.jsonl"));
        assertEquals(EVENTS, lines.size());
        ObjectMapper json = new ObjectMapper();
        for (int i = 0; i < EVENTS; i++) {
            JsonNode event = json.readTree(lines.get(i));
            assertEquals(i, event.at("/fields/number").asInt());
        }
    }

    /** Writes more than fits, then makes room. */
    static final class Program {
        public static void main(String[] arguments) throws Exception {
            Path disk = Path.of(arguments[0]);
            Path ballast = Files.write(disk.resolve("ballast"), new byte[700 * 1024]);
            Graphema graphema = Graphema.build(settings -> settings.file("log", disk.resolve("log.jsonl")));
            Logger log = Logger.of(Program.class);
            for (int i = 0; i < EVENTS; i++) {
                int number = i;
                log.info("x", f -> f.put("number", number));
                if (i % 500 == 0) {
                    graphema.flush(Duration.ofMillis(50));
                }
            }
            if (graphema.flush(Duration.ofMillis(100))) {
                System.err.println("the disk never was full");
            }
            Files.delete(ballast);
            graphema.flush(Duration.ofSeconds(30));
            Map<String, ?> lost = graphema.lost();
            graphema.close();
            System.err.println("lost " + lost);
            Files.copy(disk.resolve("log.jsonl"), Path.of(arguments[1]), StandardCopyOption.REPLACE_EXISTING);
        }
    }
}
