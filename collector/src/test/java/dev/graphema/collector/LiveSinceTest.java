package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.query.source.Following;
import dev.graphema.remote.RemoteSource;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** Past events and those that arrive, without a gap or a duplicate between them. */
@Timeout(90)
class LiveSinceTest {
    private static final int REQUESTS = 150;
    private static final int LINES = 4;

    @TempDir
    private Path folder;

    private Collector collector;
    private final AtomicInteger sent = new AtomicInteger();

    @BeforeEach
    void start() throws IOException {
        collector = Collectors.start(folder.resolve("store"));
    }

    @AfterEach
    void close() throws IOException {
        collector.close();
    }

    private void send() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < LINES; i++) {
            lines.append("{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"message\":\"m")
                    .append(sent.getAndIncrement())
                    .append("\"}\n");
        }
        assertEquals(200, Collectors.post(collector, "/lines", lines.toString()).statusCode());
    }

    private Callable<List<String>> reader(String condition) {
        return () -> {
            List<String> messages = new ArrayList<>();
            Following following = RemoteSource.at(collector.address(), null)
                    .followSince(Condition.parse(condition), Instant.parse("2026-05-15T00:00:00Z"));
            try (following) {
                while (messages.size() < REQUESTS * LINES && following.poll(event -> messages.add(event.message()))) {
                    // on until all have arrived
                }
                TimeUnit.MILLISECONDS.sleep(200);
                following.poll(event -> messages.add(event.message()));
                assertTrue(
                        following.coverage().failures().isEmpty(),
                        following.coverage().toString());
            }
            return messages;
        };
    }

    @Test
    void everyReaderGetsEveryEventOnceWheneverItBegins() throws Exception {
        ExecutorService executor = Executors.newCachedThreadPool();
        List<Future<List<String>>> readers = new ArrayList<>();
        for (int i = 0; i < REQUESTS; i++) {
            send();
            if (i % 20 == 10) {
                readers.add(executor.submit(reader("message starts m")));
            }
        }
        List<String> all = IntStream.range(0, sent.get()).mapToObj(i -> "m" + i).toList();
        for (Future<List<String>> each : readers) {
            List<String> messages = each.get();
            assertEquals(all.size(), messages.size());
            assertEquals(
                    all.stream().sorted().toList(), messages.stream().sorted().toList());
        }
        executor.shutdownNow();
    }

    @Test
    void aTimeThatCannotBeReadIsRefused() throws IOException {
        String answer = Collectors.send(
                        HttpRequest.newBuilder(collector.address().resolve("/live?since=yesterday")))
                .body();
        assertTrue(answer.contains("since is \\\"yesterday\\\": expected a time such as"), answer);
    }
}
