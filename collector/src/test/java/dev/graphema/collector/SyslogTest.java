package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.input.SyslogPort;
import dev.graphema.collector.input.SyslogPort.Transport;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.store.StoreSource;
import java.io.IOException;
import java.io.OutputStream;
import java.net.DatagramPacket;
import java.net.DatagramSocket;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.KeyStore;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import javax.net.ssl.SSLContext;
import javax.net.ssl.TrustManagerFactory;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class SyslogTest {
    /** The examples of RFC 5424, section 6.5, without the byte order mark. */
    private static final List<String> EXAMPLES = List.of(
            "<34>1 2003-10-11T22:14:15.003Z mymachine.example.com su - ID47 - 'su root' failed for lonvick on /dev/pts/8",
            "<165>1 2003-08-24T05:14:15.000003-07:00 192.0.2.1 myproc 8710 - - %% It's time to make the do-nuts.",
            "<165>1 2003-10-11T22:14:15.003Z mymachine.example.com evntslog - ID47 [exampleSDID@32473 iut=\"3\" eventSource=\"Application\" eventID=\"1011\"] An application event log entry...",
            "<165>1 2003-10-11T22:14:15.003Z mymachine.example.com evntslog - ID47 [exampleSDID@32473 iut=\"3\" eventSource=\"Application\" eventID=\"1011\"][examplePriority@32473 class=\"high\"]");

    @TempDir
    private Path folder;

    private final List<String> problems = new CopyOnWriteArrayList<>();
    private Collector collector;

    private int start(Transport over) throws IOException {
        CollectorOptions options = CollectorOptions.usual(folder.resolve("store"), problems::add)
                .port(0)
                .environment("production")
                .syslog(new SyslogPort(over, "127.0.0.1", 0, null, null));
        if (over == Transport.TLS) {
            options = options.tls(Certificates.create(folder.resolve("collector.p12")), Certificates.PASSWORD);
        }
        collector = Collector.start(options);
        return collector.syslogPorts().get(0);
    }

    @AfterEach
    void close() throws IOException {
        if (collector != null) {
            collector.close();
        }
    }

    /** Waits until this number of events is stored. */
    private List<Event> stored(int count) throws IOException, InterruptedException {
        List<Event> events = new ArrayList<>();
        while (events.size() < count) {
            events.clear();
            TimeUnit.MILLISECONDS.sleep(20);
            QueryExecutor.read(Question.all(), StoreSource.at(folder.resolve("store")), progress -> true, event -> {
                events.add(event);
                return true;
            });
        }
        assertEquals(count, events.size());
        return events;
    }

    private static void send(Socket socket, String text) throws IOException {
        OutputStream out = socket.getOutputStream();
        out.write(text.getBytes(StandardCharsets.UTF_8));
        out.flush();
    }

    private static String counted(String message) {
        return message.getBytes(StandardCharsets.UTF_8).length + " " + message;
    }

    private static void assertExamples(List<Event> events) {
        assertEquals("%% It's time to make the do-nuts.", events.get(0).message());
        assertEquals("myproc", events.get(0).service());
        Event failed = events.stream()
                .filter(event -> event.level() == Level.FATAL || event.level() == Level.ERROR)
                .findAny()
                .orElseThrow();
        assertEquals("'su root' failed for lonvick on /dev/pts/8", failed.message());
        for (Event each : events) {
            assertEquals("127.0.0.1", each.fields().get("collector.source"));
            assertEquals("production", each.fields().get("collector.environment"));
        }
        assertTrue(events.toString().contains("Application"), events.toString());
    }

    @Test
    void messagesWithLengthsArrive() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            for (String each : EXAMPLES) {
                send(socket, counted(each));
            }
            assertExamples(stored(4));
        }
    }

    @Test
    void messagesWithLineFeedsArriveAlsoTheLastWithoutOne() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            send(socket, String.join("\n", EXAMPLES));
        }
        assertExamples(stored(4));
    }

    @Test
    void messagesInPiecesAndOfBothFormsArrive() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            String all = counted(EXAMPLES.get(0)) + EXAMPLES.get(1) + "\r\n" + counted(EXAMPLES.get(2)) + "\n"
                    + EXAMPLES.get(3) + "\n";
            for (byte each : all.getBytes(StandardCharsets.UTF_8)) {
                socket.getOutputStream().write(each);
            }
            assertExamples(stored(4));
        }
    }

    @Test
    void aCompleteMessageIsStoredAlthoughTheNextOneIsNotComplete() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            send(socket, counted(EXAMPLES.get(0)) + "200 <34>1 2003-10");
            stored(1);
        }
        stored(2); // what arrived of the other one
    }

    @Test
    void aStackTraceInOneMessageIsAFailure() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            send(
                    socket,
                    counted(
                            "<11>1 2026-05-15T05:00:00Z gate-1 gate - - - barrier is stuck\njava.lang.IllegalStateException: stuck\n"
                                    + "\tat skerry.gate.Barrier.open(Barrier.java:17)\n"));
            Event event = stored(1).get(0);
            assertEquals("barrier is stuck", event.message());
            assertEquals("java.lang.IllegalStateException", event.failure().type());
        }
    }

    @Test
    void messagesThatAreTooLongAreReportedAndTheOthersArrive() throws Exception {
        try (Socket socket = new Socket("127.0.0.1", start(Transport.TCP))) {
            send(socket, counted("x".repeat(200_000)) + counted(EXAMPLES.get(0)));
            stored(1);
            send(socket, "<11>" + "y".repeat(200_000) + "\n" + EXAMPLES.get(1) + "\n");
            stored(3);
            while (problems.size() < 2) {
                TimeUnit.MILLISECONDS.sleep(10);
            }
            assertTrue(
                    problems.get(0).contains("1 messages of 127.0.0.1 are cut off or left out"), problems.toString());
        }
    }

    @Test
    void hostileBytesDoNoHarm() throws Exception {
        int port = start(Transport.TCP);
        for (String each : List.of(
                "999999999999 x",
                "0 0 0",
                "-5 a",
                "\u0000\u0000\n",
                "<999>1 - - - - - -\n",
                "12\n",
                "7 <1",
                "\ud83d\ude00\n")) {
            try (Socket socket = new Socket("127.0.0.1", port)) {
                send(socket, each);
            }
        }
        try (Socket socket = new Socket("127.0.0.1", port)) {
            send(socket, counted(EXAMPLES.get(0)));
            List<Event> events = new ArrayList<>();
            while (events.stream()
                    .noneMatch(
                            event -> event.message() != null && event.message().contains("su root"))) {
                TimeUnit.MILLISECONDS.sleep(20);
                QueryExecutor.read(
                        Question.all(), StoreSource.at(folder.resolve("store")), progress -> true, events::add);
            }
        }
    }

    @Test
    void datagramsArrive() throws Exception {
        int port = start(Transport.UDP);
        try (DatagramSocket socket = new DatagramSocket()) {
            for (String each : EXAMPLES) {
                byte[] bytes = each.getBytes(StandardCharsets.UTF_8);
                socket.send(new DatagramPacket(bytes, bytes.length, InetAddress.getByName("127.0.0.1"), port));
            }
        }
        assertExamples(stored(4));
    }

    @Test
    void encryptedMessagesArrive() throws Exception {
        int port = start(Transport.TLS);
        KeyStore store =
                KeyStore.getInstance(folder.resolve("collector.p12").toFile(), Certificates.PASSWORD.toCharArray());
        KeyStore trusted = KeyStore.getInstance(KeyStore.getDefaultType());
        trusted.load(null, null);
        for (String alias : Collections.list(store.aliases())) {
            trusted.setCertificateEntry(alias, store.getCertificate(alias));
        }
        TrustManagerFactory managers = TrustManagerFactory.getInstance(TrustManagerFactory.getDefaultAlgorithm());
        managers.init(trusted);
        SSLContext context = SSLContext.getInstance("TLS");
        context.init(null, managers.getTrustManagers(), null);
        try (Socket plain = new Socket("127.0.0.1", port)) {
            send(plain, counted(EXAMPLES.get(0)));
            try (Socket socket = context.getSocketFactory().createSocket("127.0.0.1", port)) {
                for (String each : EXAMPLES) {
                    send(socket, counted(each));
                }
                assertExamples(stored(4));
            }
            assertTrue(problems.get(0).contains("a syslog connection of 127.0.0.1 failed: "), problems.toString());
        }
    }

    @Test
    void theLoggerOfTheSystemIsUnderstood() throws Exception {
        Assumptions.assumeTrue(
                Files.isExecutable(Path.of("/usr/bin/logger")),
                "there is no logger of util-linux here: install bsdutils");
        int port = start(Transport.TCP);
        for (String each : List.of("--octet-count", "--rfc5424")) {
            Process logger = new ProcessBuilder(
                            "/usr/bin/logger",
                            "--tcp",
                            "--server",
                            "127.0.0.1",
                            "--port",
                            "" + port,
                            "--rfc5424",
                            each,
                            "--tag",
                            "deck",
                            "--priority",
                            "local0.warning",
                            "lane A3 is closed")
                    .inheritIO()
                    .start();
            assertEquals(0, logger.waitFor());
        }
        for (Event each : stored(2)) {
            assertEquals("lane A3 is closed", each.message());
            assertEquals("deck", each.service());
            assertEquals(Level.WARN, each.level());
        }
    }

    @Test
    void theLogOfAProxyIsUnderstood() throws Exception {
        Path haproxy = Path.of("/usr/sbin/haproxy");
        Assumptions.assumeTrue(Files.isExecutable(haproxy), "there is no HAProxy here: install the package haproxy");
        int port = start(Transport.TCP);
        int web;
        try (ServerSocket free = new ServerSocket(0)) {
            web = free.getLocalPort();
        }
        Path settings = Files.writeString(folder.resolve("haproxy.cfg"), """
                global
                  log ring@collector local0
                ring collector
                  format rfc5424
                  maxlen 4000
                  size 65536
                  timeout connect 5s
                  timeout server 10s
                  server one 127.0.0.1:%d log-proto octet-count
                defaults
                  mode http
                  log global
                  option httplog
                  timeout client 5s
                  timeout server 5s
                  timeout connect 5s
                frontend web
                  bind 127.0.0.1:%d
                  http-request return status 200 content-type text/plain string ok
                """.formatted(port, web));
        Process proxy = new ProcessBuilder(haproxy.toString(), "-f", settings.toString())
                .inheritIO()
                .start();
        try {
            String answer = "";
            while (!answer.contains("ok")) {
                try (Socket socket = new Socket("127.0.0.1", web)) {
                    send(socket, "GET /lanes HTTP/1.1\r\nHost: skerry\r\nConnection: close\r\n\r\n");
                    answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
                } catch (IOException e) {
                    TimeUnit.MILLISECONDS.sleep(50); // it has not started yet
                }
            }
            List<Event> events = new ArrayList<>();
            while (events.stream()
                    .noneMatch(
                            event -> event.message() != null && event.message().contains("GET /lanes"))) {
                TimeUnit.MILLISECONDS.sleep(50);
                events.clear();
                QueryExecutor.read(
                        Question.all(), StoreSource.at(folder.resolve("store")), progress -> true, events::add);
            }
            Event event = events.stream()
                    .filter(each -> each.message() != null && each.message().contains("GET /lanes"))
                    .findAny()
                    .orElseThrow();
            assertEquals("haproxy", event.service());
            assertEquals(Level.INFO, event.level());
            assertTrue(event.hasTime());
        } finally {
            proxy.destroy();
            proxy.waitFor();
        }
    }

    @Test
    void aPortThatIsNotFreeIsReported() throws Exception {
        try (ServerSocket taken = new ServerSocket(0)) {
            CollectorOptions options = CollectorOptions.usual(folder.resolve("store"), problems::add)
                    .port(0)
                    .syslog(new SyslogPort(Transport.TCP, "127.0.0.1", taken.getLocalPort(), null, null));
            String message = assertThrows(IOException.class, () -> Collector.start(options))
                    .getMessage();
            assertTrue(
                    message.contains("syslog port " + taken.getLocalPort() + " of 127.0.0.1 cannot be opened"),
                    message);
        }
    }
}
