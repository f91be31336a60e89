package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.query.Question;
import dev.graphema.query.answer.Coverage;
import dev.graphema.query.source.Control;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.atomic.AtomicInteger;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** A collector that is killed while programs send to it, and started again. Senders repeat what was not acknowledged. */
class CollectorKillTest {
    /** {@code -Dkills=500} runs more of them. */
    private static final int KILLS = Integer.getInteger("kills", 3);

    private static final int SENDERS = 2;
    private static final int LINES = 20;

    @TempDir
    private Path folder;

    private volatile URI address;
    private volatile boolean isEnding;
    private final AtomicInteger acknowledged = new AtomicInteger();

    @Test
    @Timeout(7200)
    void everythingSentIsStoredOnceAfterEveryKill() throws Exception {
        long seed = Long.getLong("seed", System.nanoTime());
        Random random = new Random(seed);
        List<Thread> senders = new ArrayList<>();
        Process collector = start();
        for (int i = 0; i < SENDERS; i++) {
            long run = i + 1;
            senders.add(new Thread(() -> send(run)));
            senders.get(i).start();
        }
        for (int kill = 0; kill < KILLS; kill++) {
            int before = acknowledged.get();
            while (acknowledged.get() == before && collector.isAlive()) {
                Thread.sleep(2);
            }
            Thread.sleep(random.nextInt(200));
            collector.destroyForcibly().waitFor(); // kill -9
            collector = start();
        }
        isEnding = true;
        for (Thread sender : senders) {
            sender.join();
        }
        Set<String> found = stored("seed " + seed);
        assertEquals(acknowledged.get(), found.size(), "seed " + seed);
        System.out.println(KILLS + " kills of a collector, seed " + seed + ": " + found.size()
                + " events sent and acknowledged, none lost or doubled");
        collector.destroyForcibly().waitFor();
        assertTrue(found.size() > KILLS);
    }

    private Process start() throws IOException {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        CollectorProgram.class.getName(),
                        folder.resolve("store").toString())
                .redirectError(folder.resolve("errors").toFile())
                .start();
        BufferedReader output =
                new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8));
        String port = output.readLine();
        address = URI.create("http://127.0.0.1:" + port);
        return process;
    }

    /** Sends one batch after the other, each until it is acknowledged. */
    private void send(long run) {
        HttpClient http = HttpClient.newHttpClient();
        for (int batch = 0; !isEnding; batch++) {
            String lines = lines(run, batch);
            boolean isSent = false;
            while (!isSent) {
                isSent = isSent(http, lines);
            }
            acknowledged.addAndGet(LINES);
        }
    }

    private boolean isSent(HttpClient http, String lines) {
        HttpRequest request = HttpRequest.newBuilder(address.resolve("/lines"))
                .timeout(Duration.ofSeconds(20))
                .POST(HttpRequest.BodyPublishers.ofString(lines))
                .build();
        try {
            return http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode() == 200;
        } catch (IOException e) {
            return false; // killed: it is sent again
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    private static String lines(long run, int batch) {
        StringBuilder lines = new StringBuilder();
        for (int i = batch * LINES; i < (batch + 1) * LINES; i++) {
            lines.append(
                    "{\"time\":\"2026-05-15T05:00:00.%09dZ\",\"level\":\"info\",\"message\":\"%d/%d\",\"id\":\"%016x-%d\"}\n"
                            .formatted(i % 1_000_000_000, run, i, run, i + 1));
        }
        return lines.toString();
    }

    private Set<String> stored(String when) throws IOException {
        List<String> messages = new ArrayList<>();
        Coverage coverage = QueryExecutor.read(
                Question.all(), RemoteSource.at(address, null), Control.NONE, event -> messages.add(event.message()));
        assertEquals(List.of(), coverage.failures(), when);
        Set<String> different = new HashSet<>(messages);
        assertEquals(different.size(), messages.size(), when + ": doubled");
        return different;
    }
}
