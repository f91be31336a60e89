package dev.graphema.delivery;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.batch.EventBatch;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.format.Format;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

class SyslogStreamTest {
    private static final Format MESSAGES = (event, to) -> {
        if (event.message().equals("bad")) {
            throw new IllegalStateException("made up");
        }
        to.text(event.message()).ascii('\n');
    };

    @Test
    void allThatWasSentShortlyBeforeABreakIsSentAgain() throws IOException {
        try (ServerSocket server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
            SyslogStream stream = stream(server);
            stream.send(EventBatch.of(event("a")));
            stream.send(EventBatch.of(event("b")));
            breakOff(server);
            stream.send(EventBatch.of(event("c")));
            try (Socket second = server.accept()) {
                stream.close();

                assertEquals("1 a1 b1 c", received(second));
            }
        }
    }

    @Test
    void ofVeryManyTheLastBatchIsSentAgain() throws IOException {
        try (ServerSocket server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
            SyslogStream stream = stream(server);
            stream.send(EventBatch.of(event("a")));
            stream.send(EventBatch.of(
                    IntStream.range(0, 1_000).mapToObj(i -> event("b")).toArray(Event[]::new)));
            breakOff(server);
            stream.send(EventBatch.of(event("c")));
            try (Socket second = server.accept()) {
                stream.close();

                assertEquals("1 b".repeat(1_000) + "1 c", received(second));
            }
        }
    }

    @Test
    void anEventThatCannotBeFormattedAfterABreakDoesNotCostTheOnesBefore() throws IOException {
        try (ServerSocket server = new ServerSocket(0, 50, InetAddress.getLoopbackAddress())) {
            SyslogStream stream = stream(server);
            stream.send(EventBatch.of(event("a")));
            breakOff(server);
            assertThrows(IllegalStateException.class, () -> stream.send(EventBatch.of(event("bad"))));
            stream.send(EventBatch.of(event("c")));
            try (Socket second = server.accept()) {
                stream.close();

                assertEquals("1 a1 c", received(second));
            }
        }
    }

    private static SyslogStream stream(ServerSocket server) {
        return new SyslogStream(
                server.getInetAddress().getHostAddress(),
                server.getLocalPort(),
                MESSAGES,
                Duration.ofSeconds(10),
                null);
    }

    /** At once, and what has arrived is discarded. */
    private static void breakOff(ServerSocket server) throws IOException {
        Socket first = server.accept();
        first.setSoLinger(true, 0);
        first.close();
    }

    private static String received(Socket socket) throws IOException {
        return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }

    private static Event event(String message) {
        return new Draft()
                .time(1)
                .level(Level.INFO)
                .logger("skerry.deck")
                .message(message)
                .finish();
    }
}
