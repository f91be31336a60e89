package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.FileKind;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import java.util.zip.GZIPInputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Processes that are killed without a chance to write anything more. */
class CrashTest {
    /** {@code -Dkills=1000} runs more of them. */
    private static final int KILLS = Integer.getInteger("kills", 50);

    private static final int THREADS = 2;
    private static final int MOST_IN_A_ROUND = 1_000_000;

    private final ObjectMapper json = new ObjectMapper();

    @TempDir
    Path folder;

    @Test
    @Timeout(3600)
    void whatADurableSinkAcceptedSurvivesEveryKill() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        List<long[]> accepted = new ArrayList<>();
        for (int round = 0; round < KILLS; round++) {
            Process program = program(round, "talk");
            assertEquals('\n', program.getInputStream().read(), "the program did not start");
            Thread.sleep(random.nextInt(random.nextInt(4) == 0 ? 300 : 40));
            program.destroyForcibly(); // kill -9
            assertTrue(program.waitFor(5, TimeUnit.MINUTES));
            accepted.add(counters());
        }
        Process last = program(KILLS, "quiet");
        assertEquals('\n', last.getInputStream().read());
        assertTrue(last.waitFor(5, TimeUnit.MINUTES));

        Map<String, List<Boolean>> repeatsOf = repeatsByEvent();
        String seedText = "seed " + seed;
        long total = 0;
        for (int round = 0; round < KILLS; round++) {
            for (int thread = 0; thread < THREADS; thread++) {
                long count = accepted.get(round)[thread];
                total += count;
                for (long number = 1; number <= count; number++) {
                    String event = round + ":" + thread + ":" + number;
                    assertTrue(repeatsOf.containsKey(event), event + " is lost, " + seedText);
                }
            }
        }
        assertTrue(total > KILLS, "only " + total + " events in all, " + seedText);
        System.out.println(KILLS + " kills, " + seedText + ": " + total + " events accepted, none lost");
        repeatsOf.forEach((event, repeats) -> assertTrue(
                repeats.stream().filter(repeat -> !repeat).count() <= 1,
                event + " came twice without a mark: " + repeats + ", " + seedText));
    }

    /** Counts each event of the file, and its repeats. An incomplete line is not valid JSON. */
    private Map<String, List<Boolean>> repeatsByEvent() throws IOException {
        Map<String, List<Boolean>> repeats = new HashMap<>();
        int half = 0;
        for (String line : lines()) {
            try {
                JsonNode event = json.readTree(line);
                JsonNode fields = event.get("fields");
                String name = fields.get("round") + ":" + fields.get("thread") + ":" + fields.get("number");
                repeats.computeIfAbsent(name, key -> new ArrayList<>()).add(event.has("repeat"));
            } catch (JsonProcessingException e) {
                half++;
            }
        }
        assertTrue(half <= KILLS, half + " half lines after " + KILLS + " kills");
        return repeats;
    }

    /** Those of all files, the archived and the compressed ones included. */
    private List<String> lines() throws IOException {
        List<String> lines = new ArrayList<>();
        try (Stream<Path> files = Files.list(folder)) {
            for (Path file : files.filter(each -> each.getFileName().toString().startsWith("log."))
                    .toList()) {
                try (InputStream in = Files.newInputStream(file);
                        InputStream text = file.toString().endsWith(".gz") ? new GZIPInputStream(in) : in) {
                    new String(text.readAllBytes(), StandardCharsets.UTF_8)
                            .lines()
                            .forEach(lines::add);
                }
            }
        }
        return lines;
    }

    private long[] counters() throws IOException {
        ByteBuffer bytes =
                ByteBuffer.wrap(Files.readAllBytes(folder.resolve("counters"))).order(ByteOrder.nativeOrder());
        long[] counters = new long[THREADS];
        for (int i = 0; i < THREADS; i++) {
            counters[i] = bytes.getLong(i * 8);
        }
        return counters;
    }

    private Process program(int round, String how) throws IOException {
        Files.write(folder.resolve("counters"), new byte[THREADS * 8]);
        return new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-XX:TieredStopAtLevel=1",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Program.class.getName(),
                        folder.toString(),
                        Integer.toString(round),
                        how)
                .redirectError(ProcessBuilder.Redirect.INHERIT)
                .start();
    }

    /** Emits events as fast as it can from two threads, and counts those that were accepted where a kill cannot reach. */
    static final class Program {
        public static void main(String[] arguments) throws Exception {
            Path folder = Path.of(arguments[0]);
            int round = Integer.parseInt(arguments[1]);
            Graphema graphema = Graphema.build(settings -> settings.spoolPath(folder.resolve("spool"))
                    .sink(
                            "log",
                            SinkSettings.file(folder.resolve("log.jsonl"))
                                    .set(FileKind.ROTATE_AT, 256L * 1024)
                                    .set(FileKind.KEEP_TOTAL, 1L << 40)
                                    .durable(true)));
            if (arguments[2].equals("quiet")) {
                graphema.close();
                System.out.println();
                return;
            }
            ByteBuffer counters;
            try (FileChannel file =
                    FileChannel.open(folder.resolve("counters"), StandardOpenOption.READ, StandardOpenOption.WRITE)) {
                counters =
                        file.map(FileChannel.MapMode.READ_WRITE, 0, THREADS * 8).order(ByteOrder.nativeOrder());
            }
            for (int t = 0; t < THREADS; t++) {
                int thread = t;
                new Thread(() -> talk(round, thread, counters)).start();
            }
            System.out.println();
        }

        private static void talk(int round, int thread, ByteBuffer counters) {
            Logger log = Logger.of(Program.class);
            for (int i = 1; i < MOST_IN_A_ROUND; i++) {
                int number = i;
                log.warn(
                        "emitted",
                        f -> f.put("round", round).put("thread", thread).put("number", number));
                counters.putLong(thread * 8, number);
            }
        }
    }
}
