package dev.graphema.web;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.event.Event;
import dev.graphema.sink.MemorySink;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.time.Duration;
import java.util.List;
import java.util.function.IntSupplier;

/** What the tests with real servers share: a client, and a runtime whose events they read. */
final class WebFixture implements AutoCloseable {
    final HttpClient client = HttpClient.newHttpClient();
    final Logger log;

    private final MemorySink sink = new MemorySink();
    private final Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", sink));
    private final IntSupplier port;

    /** @param port that of the server, once it is started */
    WebFixture(IntSupplier port) {
        this.port = port;
        this.log = graphema.logger("skerry.web");
    }

    HttpRequest.Builder request(String path) {
        return HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port.getAsInt() + path))
                .timeout(Duration.ofSeconds(30)); // a test that fails must not hang
    }

    HttpRequest post(String path, String contentType, String body) {
        return request(path)
                .header("Content-Type", contentType)
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build();
    }

    Event single() {
        return events(1).get(0);
    }

    /** The event of a request is emitted after the response was sent, so the client may be earlier. */
    List<Event> events(int count) {
        long deadline = System.nanoTime() + Duration.ofSeconds(30).toNanos();
        while (sink.events().size() < count && System.nanoTime() < deadline) {
            graphema.flush(Duration.ofSeconds(1));
            Thread.onSpinWait();
        }
        assertTrue(graphema.flush(Duration.ofSeconds(30)));
        assertEquals(count, sink.events().size(), sink.events().toString());
        return sink.events();
    }

    static Event named(String message, List<Event> events) {
        return events.stream()
                .filter(e -> e.message().equals(message))
                .findFirst()
                .orElseThrow();
    }

    @Override
    public void close() {
        graphema.close();
    }
}
