package dev.graphema;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.ObjectReader;
import dev.graphema.event.Level;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileKind;
import dev.graphema.sink.MemorySink;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.BitSet;
import java.util.Map;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Eight threads at full speed into a file, far more than it can take. */
class LoadTest {
    private static final int THREADS = 8;

    @TempDir
    Path folder;

    @ParameterizedTest
    @ValueSource(booleans = {false, true})
    void everyAcceptedEventIsWrittenOrCountedAndEachThreadsAreInOrder(boolean durable) throws Exception {
        long seconds = durable ? 2 : 10;
        long accepted;
        long lost;
        try (Graphema graphema = Graphema.isolated(settings -> settings.spoolPath(folder.resolve("spool"))
                .sink(
                        "log",
                        SinkSettings.file(folder.resolve("log.jsonl"))
                                .set(FileKind.ROTATE_AT, 10L * 1024 * 1024 * 1024)
                                .durable(durable)))) {
            Logger log = graphema.logger("skerry.gate");
            long end = System.nanoTime() + Duration.ofSeconds(seconds).toNanos();
            Thread[] threads = new Thread[THREADS];
            for (int t = 0; t < THREADS; t++) {
                int thread = t;
                threads[t] = new Thread(() -> {
                    for (int i = 0; System.nanoTime() < end; i++) {
                        int number = i;
                        log.info("pass", f -> f.put("thread", thread).put("number", number));
                    }
                });
                threads[t].start();
            }
            for (Thread thread : threads) {
                thread.join();
            }
            assertTrue(graphema.flush(Duration.ofMinutes(1)));
            graphema.close();
            accepted = graphema.accepted();
            Map<Level, Long> losses = graphema.lost().get("log");
            lost = losses.values().stream().mapToLong(Long::longValue).sum();
            assertTrue(losses.keySet().stream().allMatch(level -> level == Level.INFO), losses::toString);
        }
        BitSet seen = read();
        // Graphema's own events, which report losses, have numbers in the same sequence.
        assertEquals(accepted, seen.cardinality() + lost, "accepted = written + lost");
        assertTrue(seen.length() - 1 <= accepted, "no number beyond the last");
    }

    @Test
    void closingWhileEightThreadsGoOnTalkingLosesNothingUnsaid() throws Exception {
        for (int round = 0; round < 8; round++) {
            MemorySink sink = new MemorySink();
            AtomicLong emitted = new AtomicLong();
            AtomicBoolean enough = new AtomicBoolean();
            Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink));
            Logger log = graphema.logger("skerry.gate");
            Thread[] threads = new Thread[THREADS];
            for (int t = 0; t < THREADS; t++) {
                threads[t] = new Thread(() -> {
                    while (!enough.get()) {
                        log.info("pass");
                        emitted.incrementAndGet();
                    }
                });
                threads[t].start();
            }
            await().atMost(Duration.ofMinutes(2))
                    .pollInterval(Duration.ofMillis(1))
                    .until(() -> emitted.get() > 1_000);
            graphema.close(Duration.ofMinutes(2));
            enough.set(true);
            for (Thread thread : threads) {
                thread.join();
            }
            long lost = graphema.lost().get("memory").values().stream()
                    .mapToLong(Long::longValue)
                    .sum();
            long own = sink.events().stream()
                    .filter(event -> event.logger().equals("dev.graphema"))
                    .count();
            long written = sink.events().size() - own;
            // Every event is either written or counted; one that comes just when the thread ends may be both.
            long settled = written + lost + graphema.late();
            String counts =
                    "emitted " + emitted + ", written " + written + ", lost " + lost + ", late " + graphema.late();
            assertTrue(emitted.get() <= settled && settled <= emitted.get() + THREADS, counts);
        }
    }

    /** The sequence numbers in the file; fails when those of one thread are out of order. */
    private BitSet read() throws IOException {
        ObjectReader json = new ObjectMapper().reader();
        BitSet seen = new BitSet();
        int[] last = new int[THREADS];
        java.util.Arrays.fill(last, -1);
        try (BufferedReader lines = Files.newBufferedReader(folder.resolve("log.jsonl"))) {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
                JsonNode event = json.readTree(line);
                int sequence = event.get("sequence").asInt();
                assertTrue(!seen.get(sequence), "twice: " + line);
                seen.set(sequence);
                JsonNode number = event.at("/fields/number");
                if (number.isInt()) {
                    int thread = event.at("/fields/thread").asInt();
                    assertTrue(number.asInt() > last[thread], "out of order: " + line);
                    last[thread] = number.asInt();
                }
            }
        }
        return seen;
    }
}
