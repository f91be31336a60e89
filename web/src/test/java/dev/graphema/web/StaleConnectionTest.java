package dev.graphema.web;

import static java.nio.charset.StandardCharsets.US_ASCII;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.event.Event;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse.BodyHandlers;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** Calls on a kept-alive connection that the server closes while the next request is on its way. */
class StaleConnectionTest {
    private final WebFixture fixture = new WebFixture(() -> this.server.getLocalPort());
    private final HttpClient client =
            HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
    private final CallEvents calls = new CallEvents(client, fixture.log);
    private final List<String> received = new CopyOnWriteArrayList<>();
    private ServerSocket server;

    @BeforeEach
    void begin() throws IOException {
        server = new ServerSocket(0, 10, InetAddress.getLoopbackAddress());
        Thread serving = new Thread(this::serve, "stand-in");
        serving.setDaemon(true);
        serving.start();
    }

    @AfterEach
    void end() throws IOException {
        server.close();
        fixture.close();
    }

    @Test
    void aRequestThatMayBeSentTwiceSucceedsAndIsRecordedOnce() throws Exception {
        HttpRequest get = fixture.request("/lanes").build();
        assertEquals(200, calls.send(get, BodyHandlers.discarding()).statusCode());
        assertEquals(200, calls.send(get, BodyHandlers.discarding()).statusCode());

        assertEquals(
                List.of("success", "success"),
                fixture.events(2).stream()
                        .map(event -> event.fields().get("outcome"))
                        .toList());
    }

    @Test
    void aRequestThatMustNotBeSentTwiceFailsForItsCaller() throws Exception {
        calls.send(fixture.request("/lanes").build(), BodyHandlers.discarding());
        HttpRequest post = fixture.request("/lanes")
                .POST(HttpRequest.BodyPublishers.ofString("A3"))
                .build();
        assertThrows(IOException.class, () -> calls.send(post, BodyHandlers.discarding()));

        Event call = fixture.events(2).get(1);
        assertEquals("failure", call.fields().get("outcome"));
        assertEquals(
                1, received.stream().filter(line -> line.startsWith("POST")).count());
    }

    private void serve() {
        try {
            while (true) {
                try (Socket socket = server.accept()) {
                    answerOnce(socket);
                }
            }
        } catch (IOException e) {
            if (!server.isClosed()) {
                throw new UncheckedIOException(e);
            }
        }
    }

    /** Answers the first request on a connection; closes it when the second one is there. */
    private void answerOnce(Socket socket) throws IOException {
        BufferedReader requests = new BufferedReader(new InputStreamReader(socket.getInputStream(), US_ASCII));
        if (readHead(requests)) {
            socket.getOutputStream().write("HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok".getBytes(US_ASCII));
            readHead(requests);
        }
    }

    private boolean readHead(BufferedReader requests) throws IOException {
        String first = requests.readLine();
        if (first == null) {
            return false;
        }
        received.add(first);
        String line;
        do {
            line = requests.readLine();
        } while (line != null && !line.isEmpty());
        return true;
    }
}
