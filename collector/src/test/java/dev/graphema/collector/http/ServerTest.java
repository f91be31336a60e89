package dev.graphema.collector.http;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.EOFException;
import java.io.IOException;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Executor;
import java.util.concurrent.atomic.AtomicBoolean;
import org.apache.coyote.AbstractProtocol;
import org.junit.jupiter.api.Test;

/** What the server does if memory is short or an endpoint has an error. */
class ServerTest {
    private final List<String> problems = new CopyOnWriteArrayList<>();

    private Server server(Endpoint endpoint) throws IOException {
        return Server.start(
                new Server.Listening("127.0.0.1", 0, null),
                Map.of("GET /asked", endpoint),
                new Requests(),
                problems::add);
    }

    private static HttpResponse<String> ask(Server server) throws IOException {
        try {
            return HttpClient.newHttpClient()
                    .send(
                            HttpRequest.newBuilder(server.address().resolve("/asked"))
                                    .timeout(Duration.ofSeconds(20))
                                    .build(),
                            HttpResponse.BodyHandlers.ofString());
        } catch (InterruptedException e) {
            throw new IOException(e);
        }
    }

    @Test
    void itAnswersAgainAfterTheThreadThatReadsConnectionsHasEnded() throws IOException {
        try (Server server = server(call -> call.send(200, "text/plain", "here"))) {
            assertEquals("here", ask(server).body());
            AbstractProtocol<?> protocol =
                    (AbstractProtocol<?>) server.connector().getProtocolHandler();
            Executor usual = protocol.getExecutor();
            AtomicBoolean isShort = new AtomicBoolean(true);
            protocol.setExecutor(task -> {
                if (isShort.getAndSet(false)) {
                    throw new OutOfMemoryError("made up");
                }
                usual.execute(task);
            });
            assertThrows(IOException.class, () -> ask(server));
            await().atMost(Duration.ofSeconds(30)).until(() -> !problems.isEmpty());
            assertTrue(
                    problems.get(0).startsWith("memory was short, and all connections were closed"), problems.get(0));
            assertEquals("here", ask(server).body());
        }
    }

    @Test
    void errorsAreAnsweredAndReportedWithoutAStackTrace() throws IOException {
        try (Server server = server(call -> {
            throw new OutOfMemoryError("made up");
        })) {
            HttpResponse<String> answer = ask(server);
            assertEquals(503, answer.statusCode());
            assertEquals("5", answer.headers().firstValue("Retry-After").orElse(null));
            assertTrue(answer.body().contains("Too little memory"), answer.body());
        }
        try (Server server = server(call -> {
            throw new IllegalStateException("secret");
        })) {
            HttpResponse<String> answer = ask(server);
            assertEquals(500, answer.statusCode());
            assertTrue(
                    answer.body().contains("An error in the collector")
                            && !answer.body().contains("secret"),
                    answer.body());
        }
        assertEquals("GET /asked needed more memory than there is", problems.get(0));
        assertTrue(
                problems.get(1).startsWith("GET /asked failed: java.lang.IllegalStateException: secret at "),
                problems.get(1));
    }

    @Test
    void anAnswerThatHasBegunIsCutOffSoThatTheClientNotices() throws IOException {
        try (Server server = server(call -> {
            try {
                call.stream("text/plain", to -> {
                    to.write(new byte[100_000]);
                    throw new EOFException("no more");
                });
            } catch (EOFException e) {
                throw new Problem(503, "Too much memory", e.getMessage());
            }
        })) {
            assertThrows(IOException.class, () -> ask(server));
        }
        assertEquals(List.of("the answer to GET /asked was cut off: no more"), problems);
    }
}
