package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.delivery.HttpKind;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.settings.SinkSettings;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.ServerSocket;
import java.net.URI;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** A program with this library sends, while the collector is killed and started again: what it emits is stored once. */
class CollectorSpoolTest {
    private static final int KILLS = Integer.getInteger("kills", 3);
    private static final int EVENTS = 400;

    @TempDir
    private Path folder;

    @Test
    @Timeout(7200)
    void whatIsEmittedIsStoredOnce() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        int port;
        try (ServerSocket free = new ServerSocket(0)) {
            port = free.getLocalPort();
        }
        Process collector = start(port);
        int emitted = 0;
        SinkSettings sink =
                SinkSettings.of(new HttpKind()).set(HttpKind.URL, URI.create("http://127.0.0.1:" + port + "/lines"));
        try (Graphema graphema = Graphema.isolated(settings ->
                settings.service("booking").spoolPath(folder.resolve("spool")).sink("collector", sink))) {
            Logger log = graphema.logger("skerry.booking");
            for (int kill = 0; kill < KILLS; kill++) {
                for (int i = 0; i < EVENTS; i++) {
                    log.info("booked", f -> f.put("lane", "A3"));
                    emitted++;
                    if (i == EVENTS / 2) {
                        TimeUnit.MILLISECONDS.sleep(random.nextInt(300));
                        collector.destroyForcibly().waitFor(); // kill -9
                    }
                }
                TimeUnit.MILLISECONDS.sleep(random.nextInt(300));
                collector = start(port);
            }
            List<String> found = found(port);
            long end = System.nanoTime() + TimeUnit.MINUTES.toNanos(2);
            while (found.size() < emitted && System.nanoTime() < end) {
                graphema.flush(Duration.ofSeconds(1));
                TimeUnit.MILLISECONDS.sleep(100);
                found = found(port);
            }
            assertEquals(emitted, found.size(), "seed " + seed);
            assertEquals(emitted, new HashSet<>(found).size(), "seed " + seed + ": doubled");
        }
        System.out.println(KILLS + " kills of a collector, seed " + seed + ": " + emitted
                + " events of a program with a spool, none lost or doubled");
        collector.destroyForcibly().waitFor();
        assertTrue(emitted > KILLS);
    }

    private static List<String> found(int port) throws IOException {
        List<String> ids = new ArrayList<>();
        QueryExecutor.read(
                Question.all(),
                RemoteSource.at(URI.create("http://127.0.0.1:" + port), null),
                progress -> true,
                event -> ids.add(event.run() + "-" + event.sequence()));
        return ids;
    }

    private Process start(int port) throws IOException {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        CollectorProgram.class.getName(),
                        folder.resolve("store").toString(),
                        Integer.toString(port))
                .redirectError(folder.resolve("errors").toFile())
                .start();
        new BufferedReader(new InputStreamReader(process.getInputStream())).readLine();
        return process;
    }
}
