package dev.graphema.delivery;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Graphema;
import dev.graphema.batch.BatchSink;
import dev.graphema.settings.SinkSettings;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.DatagramPacket;
import java.net.DatagramSocket;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SyslogDeliveryTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);

    /** An independent reader of RFC 5424, section 6. */
    private static final Pattern MESSAGE = Pattern.compile(
            "<(\\d{1,3})>1 (\\S+) (\\S+) (\\S+) (\\S+) (\\S+) (-|(?:\\[[^ \\]=\"]+(?: [^ =\\]\"]+=\"(?:[^\"\\\\\\]]|\\\\.)*\")*\\])+)(?: (.*))?",
            Pattern.DOTALL);

    @TempDir
    Path folder;

    @Test
    void eachMessageIsADatagramThatReadsByTheStandard() throws IOException {
        try (DatagramSocket receiver = new DatagramSocket(0, InetAddress.getLoopbackAddress());
                Graphema graphema = start(receiver.getLocalPort(), SyslogKind.Transport.UDP)) {
            receiver.setSoTimeout(5_000);
            graphema.logger("skerry.deck").warn("lane not free", f -> f.put("lane", "A\"3]\\"));
            graphema.logger("skerry.deck").info("long", f -> f.put("text", "é".repeat(4_000)));
            graphema.flush(LIMIT);

            DatagramPacket packet = new DatagramPacket(new byte[65_535], 65_535);
            receiver.receive(packet);
            Matcher first =
                    MESSAGE.matcher(new String(packet.getData(), 0, packet.getLength(), StandardCharsets.UTF_8));
            assertTrue(first.matches(), first.toString());
            assertEquals("132", first.group(1), "local use 0, warning");
            assertTrue(first.group(2).matches("\\d{4}-\\d{2}-\\d{2}T\\d{2}:\\d{2}:\\d{2}\\.\\d{6}Z"), first.group(2));
            assertEquals("deck", first.group(4));
            assertEquals("skerry.deck", first.group(6));
            assertTrue(first.group(7).contains("lane=\"A\\\"3\\]\\\\\""), first.group(7));
            assertTrue(first.group(7).contains("[meta sequenceId=\"1\"]"), first.group(7));
            assertEquals("lane not free", first.group(8));

            receiver.receive(packet);
            assertTrue(packet.getLength() <= 2048);
            String cut = new String(packet.getData(), 0, packet.getLength(), StandardCharsets.UTF_8);
            assertTrue(cut.endsWith("é"), "cut between characters");
        }
    }

    @Test
    void overTcpEachMessageIsBehindItsLength() throws IOException {
        try (Collector collector = new Collector(new ServerSocket(0, 50, InetAddress.getLoopbackAddress()));
                Graphema graphema = start(collector.port(), SyslogKind.Transport.TCP)) {
            for (int i = 0; i < 500; i++) {
                int number = i;
                graphema.logger("skerry.deck").info("Überfahrt\nzwei", f -> f.put("number", number));
            }
            graphema.flush(LIMIT);
            await().atMost(LIMIT).until(() -> collector.messages.size() == 500);
            for (int i = 0; i < 500; i++) {
                Matcher message = MESSAGE.matcher(collector.messages.get(i));
                assertTrue(message.matches(), collector.messages.get(i));
                assertTrue(message.group(7).contains("number=\"" + i + "\""), message.group(7));
                assertEquals("\uFEFFÜberfahrt\\nzwei", message.group(8));
            }
        }
    }

    @Test
    void aConnectionThatBreaksIsMadeAgainAndNothingIsMissing() throws Exception {
        Collector first = new Collector(new ServerSocket(0, 50, InetAddress.getLoopbackAddress()));
        int port = first.port();
        try (Graphema graphema = start(port, SyslogKind.Transport.TCP)) {
            emit(graphema, 0, 10);
            graphema.flush(LIMIT);
            await().atMost(LIMIT).until(() -> first.messages.size() == 10);
            first.close();
            emit(graphema, 10, 20);
            graphema.flush(LIMIT);
            try (Collector second = new Collector(bound(port))) {
                emit(graphema, 20, 30);
                graphema.flush(LIMIT);
                await().atMost(LIMIT).until(() -> second.numbers().containsAll(List.of("10", "19", "20", "29")));
                List<String> got = second.numbers();
                assertEquals("29", got.get(got.size() - 1));
                for (int i = 10; i < 30; i++) {
                    assertTrue(got.contains(Integer.toString(i)), i + " is missing in " + got);
                }
            }
        }
    }

    @Test
    void aReceiverThatDoesNotReadHoldsNobodyForLong() throws IOException {
        try (ServerSocket deaf = new ServerSocket(0, 1, InetAddress.getLoopbackAddress());
                Graphema graphema = start(deaf.getLocalPort(), SyslogKind.Transport.TCP)) {
            String much = "x".repeat(16_000);
            for (int i = 0; i < 2_000; i++) {
                // At warn, a caller waits for space in the queue.
                graphema.logger("skerry.deck").warn("much", f -> f.put("text", much));
            }
            assertTrue(graphema.flush(LIMIT), "what the receiver does not read waits on the disk");
            assertTrue(graphema.close(LIMIT));
        }
    }

    @Test
    void overTlsTheReceiversCertificateIsChecked() throws Exception {
        TestCertificate certificate = TestCertificate.make(folder);
        Path trusted = certificate.authority();
        try (Collector collector = new Collector(certificate
                .context()
                .getServerSocketFactory()
                .createServerSocket(0, 50, InetAddress.getLoopbackAddress()))) {
            try (Graphema graphema = Graphema.isolated(settings -> settings.spoolPath(folder.resolve("spool"))
                    .sink(
                            "syslog",
                            sink(collector.port(), SyslogKind.Transport.TLS).set(Tls.TRUST, trusted)))) {
                emit(graphema, 0, 3);
                graphema.flush(LIMIT);
                await().atMost(LIMIT).until(() -> collector.messages.size() == 3);
            }
            try (Graphema graphema = Graphema.isolated(settings -> settings.spoolPath(folder.resolve("other"))
                    .sink("syslog", sink(collector.port(), SyslogKind.Transport.TLS)))) {
                emit(graphema, 3, 6);
                graphema.flush(LIMIT);
            }
            assertEquals(3, collector.messages.size(), "nothing goes to somebody who is not trusted");
        }
    }

    @Test
    void connectionsThatBreakAgainAndAgainCostNothing() throws Exception {
        int port;
        try (ServerSocket free = bound(0)) {
            port = free.getLocalPort();
        }
        Set<String> got = new HashSet<>();
        try (Graphema graphema = start(port, SyslogKind.Transport.TCP)) {
            for (int round = 0; round < 20; round++) {
                int first = round * 20;
                emit(graphema, first, first + 20);
                try (Collector collector = new Collector(bound(port))) {
                    graphema.flush(LIMIT);
                    int some = round % 5;
                    await().atMost(LIMIT).until(() -> collector.messages.size() > some);
                    got.addAll(collector.numbers());
                }
            }
            try (Collector last = new Collector(bound(port))) {
                emit(graphema, 400, 401);
                await().atMost(LIMIT).until(() -> last.numbers().contains("400"));
                got.addAll(last.numbers());
            }
            assertEquals(Map.of(), graphema.lost().get("syslog"));
        }
        for (int i = 0; i < 401; i++) {
            assertTrue(got.contains(Integer.toString(i)), i + " is missing");
        }
    }

    private Graphema start(int port, SyslogKind.Transport transport) {
        return Graphema.isolated(settings ->
                settings.service("deck").spoolPath(folder.resolve("spool")).sink("syslog", sink(port, transport)));
    }

    private static SinkSettings sink(int port, SyslogKind.Transport transport) {
        return SinkSettings.of(new SyslogKind())
                .set(SyslogKind.HOST, "127.0.0.1")
                .set(SyslogKind.PORT, port)
                .set(SyslogKind.TRANSPORT, transport)
                .set(SyslogKind.TIMEOUT, Duration.ofMillis(500))
                .set(BatchSink.BATCH_WAIT, Duration.ofMillis(20))
                .set(BatchSink.RETRY_FIRST, Duration.ofMillis(20))
                .set(BatchSink.RETRY_LONGEST, Duration.ofMillis(100));
    }

    private static void emit(Graphema graphema, int from, int to) {
        for (int i = from; i < to; i++) {
            int number = i;
            graphema.logger("skerry.deck").info("seat held", f -> f.put("number", number));
        }
    }

    private static ServerSocket bound(int port) throws IOException {
        ServerSocket socket = new ServerSocket();
        socket.setReuseAddress(true);
        socket.bind(new InetSocketAddress(InetAddress.getLoopbackAddress(), port));
        return socket;
    }

    /** Reads frames: a length in digits, a blank, and that number of octets. */
    private static final class Collector implements AutoCloseable {
        final List<String> messages = new CopyOnWriteArrayList<>();
        private final List<Socket> open = new CopyOnWriteArrayList<>();
        private final ServerSocket server;
        private final Thread accepting = new Thread(this::accept, "collector");

        Collector(ServerSocket server) {
            this.server = server;
            accepting.setDaemon(true);
            accepting.start();
        }

        int port() {
            return server.getLocalPort();
        }

        List<String> numbers() {
            return messages.stream()
                    .map(message -> message.replaceAll("(?s).*number=\"(\\d+)\".*", "$1"))
                    .toList();
        }

        private void accept() {
            try {
                while (true) {
                    Socket socket = server.accept();
                    open.add(socket);
                    Thread thread = new Thread(() -> read(socket), "collector-connection");
                    thread.setDaemon(true);
                    thread.start();
                }
            } catch (IOException e) {
                // closed
            }
        }

        private void read(Socket socket) {
            try (socket) {
                InputStream in = new BufferedInputStream(socket.getInputStream());
                while (true) {
                    StringBuilder length = new StringBuilder();
                    int c;
                    while ((c = in.read()) != ' ') {
                        if (c < 0) {
                            return;
                        }
                        length.append((char) c);
                    }
                    byte[] message = in.readNBytes(Integer.parseInt(length.toString()));
                    messages.add(new String(message, StandardCharsets.UTF_8));
                }
            } catch (IOException e) {
                // the sender has gone, or is not to be trusted with more
            }
        }

        @Override
        public void close() throws IOException {
            server.close();
            try {
                accepting.join(); // until then, it may still take a connection
            } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
            }
            for (Socket socket : open) {
                socket.close();
            }
        }
    }
}
