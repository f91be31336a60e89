package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.sun.management.HotSpotDiagnosticMXBean;
import dev.graphema.Context;
import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.Scope;
import dev.graphema.delivery.HttpKind;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.redaction.Detectors;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.Sink;
import java.io.IOException;
import java.lang.management.ManagementFactory;
import java.net.URI;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Emits random events with secrets in every position in another process. Neither its output nor a dump of its memory contains
 * one of the secrets. The memory has a full queue, hand-over and spool files, and events that are held back.
 */
class NoSecretLeavesTest {
    private static final int EVENTS = 3_000;

    @TempDir
    Path folder;

    @Test
    void noByteOfAnySinkQueueSpoolOrMemoryIsASecret() throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-Xmx256m",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Program.class.getName(),
                        folder.toString())
                .redirectErrorStream(true)
                .start();
        String output = new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
        assertTrue(process.waitFor(5, TimeUnit.MINUTES));
        assertTrue(output.contains("held 1"), output);
        Files.writeString(folder.resolve("output.txt"), output);

        Search search = new Search();
        for (long i = 0; i < EVENTS; i++) {
            search.add(PlantedSecret.of(i).secret());
            search.add(PlantedSecret.named(i));
        }
        search.add(Program.canary());
        List<Path> files;
        try (Stream<Path> all = Files.walk(folder)) {
            files = all.filter(Files::isRegularFile).toList();
        }
        assertTrue(files.size() > 6, files.toString());
        Map<String, List<String>> found = new HashMap<>();
        for (Path file : files) {
            List<String> secrets = search.in(Files.readAllBytes(file));
            if (!secrets.isEmpty()) {
                found.put(folder.relativize(file).toString(), secrets);
            }
        }
        // The canary was left in the memory on purpose, so that a search that finds nothing is known to search.
        assertEquals(Map.of("memory.hprof", List.of(Program.canary())), found);
    }

    /** Looks for many texts at once, in Latin-1, UTF-8 and UTF-16. */
    private static final class Search {
        private final Map<Long, List<byte[]>> byBeginning = new HashMap<>();
        private final Map<byte[], String> names = new HashMap<>();

        void add(String secret) {
            put(secret, secret.getBytes(StandardCharsets.UTF_8));
            put(secret, secret.getBytes(StandardCharsets.UTF_16LE));
            put(secret, secret.getBytes(StandardCharsets.UTF_16BE));
        }

        private void put(String secret, byte[] bytes) {
            byBeginning
                    .computeIfAbsent(beginning(bytes, 0), missing -> new ArrayList<>())
                    .add(bytes);
            names.put(bytes, secret);
        }

        List<String> in(byte[] bytes) {
            List<String> found = new ArrayList<>();
            long window = bytes.length < 8 ? 0 : beginning(bytes, 0);
            for (int i = 0; i + 8 <= bytes.length; i++) {
                for (byte[] secret : byBeginning.getOrDefault(window, List.of())) {
                    if (i + secret.length <= bytes.length
                            && java.util.Arrays.equals(bytes, i, i + secret.length, secret, 0, secret.length)
                            && !found.contains(names.get(secret))) {
                        found.add(names.get(secret));
                    }
                }
                window = i + 8 < bytes.length ? window << 8 | bytes[i + 8] & 0xFF : 0;
            }
            return found;
        }

        private static long beginning(byte[] bytes, int from) {
            long beginning = 0;
            for (int i = 0; i < 8; i++) {
                beginning = beginning << 8 | bytes[from + i] & 0xFF;
            }
            return beginning;
        }
    }

    /** Emits events with secrets in every position, and writes a dump of its memory to a file. */
    static final class Program {
        private static final Key<String> SEAT = Key.text("seat").sensitive("seat");
        private static String left;

        static String canary() {
            return "left-here-" + Integer.toHexString("on purpose".hashCode());
        }

        public static void main(String[] arguments) throws Exception {
            Path folder = Path.of(arguments[0]);
            CountDownLatch stuck = new CountDownLatch(1);
            Graphema graphema = Graphema.build(settings -> settings.level(Level.TRACE)
                    .holdBack(HoldBackRule.USUAL)
                    .redaction(new RedactionSettings(
                            Detectors.usual(),
                            Map.of(),
                            Map.of(),
                            Map.of("pin", "remove", "*_code", "fixed"),
                            Map.of("seat", "fixed"),
                            null,
                            null))
                    .spoolPath(folder.resolve("spool"))
                    .sink("json", SinkSettings.file(folder.resolve("log.jsonl")))
                    .sink(
                            "durable",
                            SinkSettings.file(folder.resolve("durable.jsonl")).durable(true))
                    .sink("away", away())
                    .sink("text", texts(folder.resolve("strings.txt")))
                    .sink("stuck", event -> {
                        try {
                            stuck.await();
                        } catch (InterruptedException e) {
                            Thread.currentThread().interrupt();
                        }
                    }));
            CountDownLatch emitted = new CountDownLatch(1);
            Thread caller = new Thread(() -> {
                for (long i = 0; i < EVENTS; i++) {
                    emit(i);
                }
                emitted.countDown();
                synchronized (Program.class) {
                    try {
                        Program.class.wait(); // what the thread remembers is part of the examined memory
                    } catch (InterruptedException e) {
                        Thread.currentThread().interrupt();
                    }
                }
            });
            caller.setDaemon(true);
            caller.start();
            emitted.await(); // it also waits, for another thread, between events
            while (caller.getState() != Thread.State.WAITING) {
                Thread.onSpinWait();
            }
            left = canary().toUpperCase(java.util.Locale.ROOT).toLowerCase(java.util.Locale.ROOT);
            graphema.flush(Duration.ofSeconds(2));
            ManagementFactory.getPlatformMXBean(HotSpotDiagnosticMXBean.class)
                    .dumpHeap(folder.resolve("memory.hprof").toString(), true);
            System.out.println("held " + (graphema.held().events() > 100 ? 1 : 0) + left.length());
            Runtime.getRuntime().halt(0);
        }

        private static SinkSettings away() {
            return SinkSettings.of(new HttpKind()).set(HttpKind.URL, URI.create("http://127.0.0.1:9/none"));
        }

        private static Sink texts(Path file) {
            return event -> {
                try {
                    Files.writeString(file, event + "\n", StandardOpenOption.CREATE, StandardOpenOption.APPEND);
                } catch (IOException e) {
                    throw new java.io.UncheckedIOException(e);
                }
            };
        }

        private static void emit(long number) {
            PlantedSecret planted = PlantedSecret.of(number);
            String text = planted.text();
            Random random = new Random(number);
            Logger log = Logger.named("skerry.x" + number % 7);
            Level level = Level.values()[random.nextInt(6)];
            String baggage =
                    "remark=" + URLEncoder.encode(text, StandardCharsets.UTF_8).replace("+", "%20");
            Map<String, String> headers = random.nextBoolean() ? Map.of("baggage", baggage) : Map.of();
            try (Scope scope = Correlation.resume(headers::get)) {
                switch ((int) (number % 12)) {
                    case 0 -> log.log(level, text, null, f -> named(f, number));
                    case 1 -> log.log(level, "m", null, f -> f.put(text, 1).put("a", text));
                    case 2 ->
                        log.log(level, "m", null, f -> f.group("a", g -> g.put("b", Map.of("c", List.of(1, text)))));
                    case 3 -> log.log(level, "m", new IllegalStateException(text), null);
                    case 4 -> log.log(level, "m", new IOException("x", new IllegalStateException(text)), null);
                    case 5 -> {
                        IOException failure = new IOException("x");
                        failure.addSuppressed(new IllegalStateException(text));
                        log.log(level, "m", failure, f -> named(f, number));
                    }
                    case 6 -> {
                        try (Scope context =
                                Context.open(f -> f.put("remark", text).put(SEAT, PlantedSecret.named(number)))) {
                            log.log(level, "m", null, null);
                        }
                    }
                    case 7 -> {
                        try (Operation operation = log.operation(level, text)) {
                            operation.put("remark", text);
                            operation.fail(new IllegalStateException(text));
                        }
                    }
                    case 8 -> log.with(f -> f.put("remark", text)).log(level, "m", null, f -> named(f, number));
                    case 9 -> log.log(level, "m", null, f -> f.put("remark", new Remark(text, List.of(text))));
                    case 10 ->
                        log.log(
                                level,
                                "m",
                                null,
                                f -> f.put("remark", new Object() {
                                    @Override
                                    public String toString() {
                                        return text;
                                    }
                                }));
                    default -> onThreadCalled(text, () -> log.log(level, "m", null, null));
                }
            }
        }

        private record Remark(String text, List<String> more) {}

        private static void named(FieldWriter to, long number) {
            String secret = PlantedSecret.named(number);
            to.put("Pin", secret)
                    .group("order", g -> g.put("access_code", List.of(secret)))
                    .put(SEAT, secret);
        }

        private static void onThreadCalled(String name, Runnable work) {
            Thread thread = new Thread(work, name);
            thread.start();
            try {
                thread.join();
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
        }
    }
}
