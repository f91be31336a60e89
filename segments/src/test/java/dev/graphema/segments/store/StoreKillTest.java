package dev.graphema.segments.store;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.Question;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** A process that is killed while it appends, seals, merges and deletes. */
class StoreKillTest {
    /** {@code -Dkills=500} runs more of them. */
    private static final int KILLS = Integer.getInteger("kills", 8);

    private static final int MOST_IN_A_ROUND = 10_000_000;

    @TempDir
    private Path folder;

    @Test
    @Timeout(7200)
    void whatWasAcknowledgedIsThereOnceAfterEveryKill() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        Path store = Files.createDirectory(folder.resolve("store"));
        Files.writeString(store.resolve(StoreRules.FILE), "retention: {when: level <= debug, keep: 1s}\n");
        Set<String> acknowledged = new HashSet<>();
        for (int round = 0; round < KILLS; round++) {
            Path out = folder.resolve("out");
            Process program = new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-cp",
                            System.getProperty("java.class.path"),
                            StoreProgram.class.getName(),
                            store.toString(),
                            String.valueOf(round * MOST_IN_A_ROUND))
                    .redirectOutput(out.toFile())
                    .redirectError(folder.resolve("errors").toFile())
                    .start();
            while (Files.size(out) == 0 && program.isAlive()) {
                Thread.sleep(5);
            }
            Thread.sleep(random.nextInt(random.nextInt(4) == 0 ? 1000 : 100));
            program.destroyForcibly(); // kill -9
            assertTrue(program.waitFor(5, TimeUnit.MINUTES));
            // Newer JDKs warn about the native code of zstd.
            assertEquals(
                    List.of(),
                    Files.readAllLines(folder.resolve("errors")).stream()
                            .filter(line -> !line.isBlank() && !line.startsWith("WARNING: "))
                            .toList(),
                    "seed " + seed);
            completeLines(out).stream().filter(number -> !number.endsWith("0")).forEach(acknowledged::add);
            check(store, acknowledged, "round " + round + ", seed " + seed);
        }
        System.out.println(KILLS + " kills of a store, seed " + seed + ": " + acknowledged.size()
                + " events acknowledged, none lost or doubled");
        assertTrue(acknowledged.size() > KILLS);
    }

    private static List<String> completeLines(Path out) throws IOException {
        String text = Files.readString(out);
        return text.substring(0, text.lastIndexOf('\n') + 1).lines().toList();
    }

    private static void check(Path store, Set<String> acknowledged, String when) throws IOException {
        List<String> messages = new ArrayList<>();
        Coverage coverage = QueryExecutor.read(
                Question.where("level = info"),
                StoreSource.at(store),
                Control.NONE,
                event -> messages.add(event.message()));
        assertEquals(List.of(), coverage.failures(), when);
        Set<String> found = new HashSet<>(messages);
        assertEquals(found.size(), messages.size(), when + ": doubled");
        Set<String> lost = new HashSet<>(acknowledged);
        lost.removeAll(found);
        assertEquals(Set.of(), lost, when);
    }
}
