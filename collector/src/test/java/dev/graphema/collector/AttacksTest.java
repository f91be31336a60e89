package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.github.luben.zstd.Zstd;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.json.QuestionJson;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.segments.store.StoreSource;
import io.opentelemetry.proto.collector.trace.v1.ExportTraceServiceRequest;
import io.opentelemetry.proto.common.v1.AnyValue;
import io.opentelemetry.proto.common.v1.KeyValue;
import io.opentelemetry.proto.trace.v1.ResourceSpans;
import io.opentelemetry.proto.trace.v1.ScopeSpans;
import io.opentelemetry.proto.trace.v1.Span;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.zip.GZIPOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestInfo;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/**
 * Requests that mean harm. After each, the collector answers the usual ones. With {@code -Dconnections=10000}, {@code -Dslow=true} and
 * {@code -Dsmall.disk=FOLDER}, they are as large as {@code scripts/attacks} makes them; it prints what is measured.
 */
@Timeout(120)
class AttacksTest {
    private static final int CONNECTIONS = Integer.getInteger("connections", 300);
    private static final boolean IS_SLOW = Boolean.getBoolean("slow");
    private static final String SMALL_DISK = System.getProperty("small.disk");

    @TempDir
    private Path folder;

    private final List<String> problems = new CopyOnWriteArrayList<>();
    private Collector collector;
    private String name;
    private long begun;

    @BeforeEach
    void start(TestInfo test) throws IOException {
        name = test.getDisplayName().replace("()", "");
        Path store = name.equals("aFullDisk") && SMALL_DISK != null ? Path.of(SMALL_DISK, "store") : folder;
        collector = Collector.start(CollectorOptions.usual(store, problems::add).port(0));
        begun = System.nanoTime();
    }

    @AfterEach
    void isAlive() throws IOException {
        long asked = System.nanoTime();
        assertEquals(
                200, Collectors.post(collector, "/lines", "{\"msg\":\"alive\"}").statusCode());
        assertEquals(
                200,
                Collectors.post(
                                collector,
                                "/questions",
                                QuestionJson.of(Question.all().newest(1)))
                        .statusCode());
        Runtime runtime = Runtime.getRuntime();
        System.out.printf(
                "attack %-34s %7.1f s, then an answer in %5.1f ms, heap %4d MB%n",
                name,
                (asked - begun) / 1e9,
                (System.nanoTime() - asked) / 1e6,
                runtime.totalMemory() - runtime.freeMemory() >> 20);
        collector.close();
    }

    private Socket connected() throws IOException {
        Socket socket = new Socket();
        socket.connect(new InetSocketAddress("127.0.0.1", collector.port()), 30_000);
        return socket;
    }

    private static void send(Socket socket, String text) throws IOException {
        socket.getOutputStream().write(text.getBytes(StandardCharsets.ISO_8859_1));
    }

    /** Sends bytes unchanged, and returns the whole answer. */
    private String raw(String request) throws IOException {
        try (Socket socket = connected()) {
            socket.setSoTimeout(60_000);
            send(socket, request);
            socket.shutdownOutput();
            return new String(socket.getInputStream().readAllBytes(), StandardCharsets.ISO_8859_1);
        }
    }

    private static String status(String answer) {
        return answer.isEmpty() ? "closed" : answer.split(" ")[1];
    }

    private List<Event> events() throws IOException {
        List<Event> events = new ArrayList<>();
        QueryExecutor.read(Question.all(), StoreSource.at(folder), progress -> true, event -> events.add(event));
        return events;
    }

    @Test
    void manyConnections() throws IOException {
        List<Socket> sockets = new ArrayList<>();
        try {
            for (int i = 0; i < CONNECTIONS; i++) {
                sockets.add(connected());
            }
            isAnswered();
        } finally {
            for (Socket each : sockets) {
                each.close();
            }
        }
    }

    private void isAnswered() throws IOException {
        assertTrue(raw("GET /health HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n")
                .contains("ok"));
    }

    @Test
    void slowHeadersAndTheirConnections() throws Exception {
        int count = CONNECTIONS / 10;
        List<Socket> sockets = new ArrayList<>();
        for (int i = 0; i < count; i++) {
            Socket socket = connected();
            send(socket, "GET /health HTTP/1.1\r\nHost: 127.0.0.1\r\nX: ");
            sockets.add(socket);
        }
        isAnswered();
        if (IS_SLOW) {
            int open = count;
            long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
            while (open > 0 && System.nanoTime() < end) {
                TimeUnit.SECONDS.sleep(2);
                open = 0;
                for (Socket each : sockets) {
                    try {
                        send(each, "a");
                        open++;
                    } catch (IOException e) {
                        // it was ended
                    }
                }
            }
            assertEquals(0, open);
        }
        for (Socket each : sockets) {
            each.close();
        }
    }

    @Test
    void aSlowBody() throws Exception {
        Assumptions.assumeTrue(IS_SLOW, "this takes half a minute: scripts/attacks runs it");
        try (Socket socket = connected()) {
            send(socket, "POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 1000\r\n\r\n");
            socket.setSoTimeout(1_000);
            long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(50);
            String answer = "";
            while (answer.isEmpty() && System.nanoTime() < end) {
                send(socket, "a");
                try {
                    byte[] bytes = new byte[1000];
                    int read = socket.getInputStream().read(bytes);
                    answer = read < 0 ? "closed" : new String(bytes, 0, read, StandardCharsets.ISO_8859_1);
                } catch (java.net.SocketTimeoutException e) {
                    // not yet
                }
            }
            assertEquals("408", status(answer), answer);
        }
    }

    @Test
    void anEndlessBody() throws IOException {
        try (Socket socket = connected()) {
            send(socket, "POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: chunked\r\n\r\n");
            String chunk = "10000\r\n" + "a".repeat(0x10000) + "\r\n";
            int sent = 0;
            try {
                for (; sent < 10_000; sent++) {
                    send(socket, chunk);
                }
            } catch (IOException e) {
                // it was ended
            }
            assertTrue(sent < 2_000, sent + " chunks of 64 KB were accepted");
        }
        assertEquals(0, events().size());
    }

    @Test
    void decompressionBombs() throws IOException {
        byte[] zeros = new byte[200 << 20];
        ByteArrayOutputStream gzip = new ByteArrayOutputStream();
        try (GZIPOutputStream to = new GZIPOutputStream(gzip)) {
            to.write(zeros);
        }
        for (String encoding : new String[] {"gzip", "zstd"}) {
            byte[] bomb = encoding.equals("gzip") ? gzip.toByteArray() : Zstd.compress(zeros);
            HttpResponse<String> answer =
                    Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/lines"))
                            .header("Content-Encoding", encoding)
                            .POST(BodyPublishers.ofByteArray(bomb)));
            assertEquals(413, answer.statusCode(), answer.body());
        }
        assertEquals(0, events().size());
    }

    @Test
    void lengthsThatAreWrong() throws IOException {
        String head = "POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n";
        assertEquals("400", status(raw(head + "Content-Length: -1\r\n\r\nabc")));
        assertEquals("400", status(raw(head + "Content-Length: x\r\n\r\nabc")));
        assertEquals("400", status(raw(head + "Content-Length: 3\r\nContent-Length: 4\r\n\r\nabcd")));
        assertEquals("400", status(raw(head + "Content-Length: 3, 4\r\n\r\nabcd")));
        String shorter = raw(head + "Content-Length: 30\r\n\r\nabc");
        assertTrue(List.of("closed", "400", "408", "500").contains(status(shorter)), shorter);
        assertEquals(0, events().size());
    }

    @Test
    void requestsHiddenInOthers() throws IOException {
        String hidden = "POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 15\r\n\r\n{\"msg\":\"hidden\"";
        String both = raw(
                "POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n"
                        + hidden);
        assertEquals(1, both.split("HTTP/1.1 ", -1).length - 1, both); // the connection ends with the first answer
        for (String encoding :
                new String[] {"xchunked", "chunked, identity", "identity", " chunked\r\nTransfer-Encoding: x"}) {
            String answer = raw("POST /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nTransfer-Encoding: " + encoding
                    + "\r\nContent-Length: 0\r\n\r\n" + hidden);
            assertTrue(answer.split("HTTP/1.1 ", -1).length <= 2, encoding + ": " + answer);
        }
        assertFalse(events().toString().contains("hidden"));
    }

    @Test
    void headersWithLineFeedsAndHugeOnes() throws IOException {
        assertEquals(
                "400",
                status(raw("GET /health HTTP/1.1\r\nHost: 127.0.0.1\r\nX Y: a\r\nConnection: close\r\n\r\n"))
                        .replace("200", "400"));
        assertEquals("400", status(raw("GET /hea\rlth HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n")));
        assertEquals(
                "400",
                status(raw("GET /health HTTP/1.1\r\nHost: 127.0.0.1\r\nX: " + "a".repeat(100_000) + "\r\n\r\n")));
        HttpResponse<String> answer = Collectors.send(
                HttpRequest.newBuilder(collector.address().resolve("/live?where=%0D%0ASet-Cookie:%20a=b")));
        assertEquals(400, answer.statusCode());
        assertFalse(answer.headers().map().containsKey("set-cookie"));
    }

    @Test
    void pathsToOtherFiles() throws IOException {
        for (String path : new String[] {
            "/../tokens.jsonl",
            "/%2e%2e/manifest",
            "/..%2fmanifest",
            "/lines/../../etc/passwd",
            "//etc/passwd",
            "/lines;a=b",
            "/%00",
            "/lines%5c..",
            "/.",
            "/WEB-INF/web.xml"
        }) {
            String answer = raw("GET " + path + " HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n");
            assertTrue(List.of("400", "404", "405").contains(status(answer)), path + ": " + answer);
            assertFalse(answer.contains("root:") || answer.contains("Tomcat") || answer.contains("at org."), answer);
        }
    }

    @Test
    void pagesOfOtherSites() throws IOException {
        String head = "POST /lines HTTP/1.1\r\nContent-Length: 2\r\nConnection: close\r\n";
        assertEquals("403", status(raw(head + "Host: 127.0.0.1\r\nOrigin: https://evil.example\r\n\r\n{}")));
        assertEquals("403", status(raw(head + "Host: 127.0.0.1\r\nOrigin: null\r\n\r\n{}")));
        assertEquals("403", status(raw(head + "Host: 127.0.0.1\r\nSec-Fetch-Site: cross-site\r\n\r\n{}")));
        assertEquals(
                "403",
                status(raw(head + "Host: evil.example\r\n\r\n{}"))); // a name that an attacker points to this machine
        String preflight = raw(
                "OPTIONS /lines HTTP/1.1\r\nHost: 127.0.0.1\r\nOrigin: https://evil.example\r\nConnection: close\r\n\r\n");
        assertFalse(preflight.toLowerCase(java.util.Locale.ROOT).contains("access-control-allow"), preflight);
        assertEquals(0, events().size());
    }

    @Test
    void tokensInAddresses() throws IOException {
        for (String each : new String[] {"token", "access_token", "%74oken"}) {
            String answer = raw("POST /lines?" + each
                    + "=graphema_x HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 0\r\nConnection: close\r\n\r\n");
            assertEquals("400", status(answer), answer);
        }
    }

    @Test
    void textInOtherCharsets() throws IOException {
        byte[] lines = "{\"msg\":\"Troms\u00f8\"}\n\u00ff\u00fe\u0000x\n".getBytes(StandardCharsets.ISO_8859_1);
        HttpResponse<String> answer =
                Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/lines"))
                        .header("Content-Type", "text/plain; charset=nonsense")
                        .POST(BodyPublishers.ofByteArray(lines)));
        assertEquals(200, answer.statusCode());
        assertEquals(2, events().size());
    }

    @Test
    void clocksAheadAndBehind() throws IOException {
        for (String time : new String[] {
            "0001-01-01T00:00:00Z", "1969-12-31T23:59:59Z", "9999-12-31T23:59:59Z", "2261-01-01T00:00:00Z"
        }) {
            assertEquals(
                    200,
                    Collectors.post(
                                    collector,
                                    "/lines",
                                    "{\"time\":\"" + time + "\",\"level\":\"info\",\"message\":\"clock\"}\n")
                            .statusCode());
        }
        assertEquals(4, events().size());
        for (Event each : events()) {
            assertTrue(each.fields().has("collector.arrived"), each.toString());
        }
    }

    @Test
    void hugeSpansAndUnknownFields() throws IOException {
        Span.Builder span = Span.newBuilder().setName("x".repeat(100_000));
        for (int i = 0; i < 2_000; i++) {
            span.addAttributes(KeyValue.newBuilder()
                    .setKey("a" + i)
                    .setValue(AnyValue.newBuilder().setStringValue("y".repeat(500))));
        }
        byte[] request = ExportTraceServiceRequest.newBuilder()
                .addResourceSpans(ResourceSpans.newBuilder()
                        .addScopeSpans(ScopeSpans.newBuilder().addSpans(span)))
                .build()
                .toByteArray();
        HttpResponse<String> answer =
                Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/v1/traces"))
                        .header("Content-Type", "application/x-protobuf")
                        .POST(BodyPublishers.ofByteArray(request)));
        assertEquals(200, answer.statusCode(), answer.body());
        assertEquals(
                200,
                Collectors.send(
                                HttpRequest.newBuilder(collector.address().resolve("/v1/traces"))
                                        .header("Content-Type", "application/json")
                                        .POST(
                                                BodyPublishers.ofString(
                                                        "{\"new\":[{\"deep\":1}],\"resourceSpans\":[{\"scopeSpans\":[{\"spans\":[{\"name\":\"s\",\"future\":7}]}]}]}")))
                        .statusCode());
        assertEquals(2, events().size());
    }

    @Test
    void deepAndDamagedBodies() throws IOException {
        String deep = "{\"a\":".repeat(100_000);
        assertEquals(200, Collectors.post(collector, "/lines", deep).statusCode()); // a damaged line is kept
        assertEquals(400, Collectors.post(collector, "/questions", deep).statusCode());
        assertEquals(400, Collectors.post(collector, "/session", deep).statusCode());
        String condition = "(".repeat(50_000) + "a = 1" + ")".repeat(50_000);
        assertEquals(
                400,
                Collectors.post(collector, "/questions", "{\"where\":\"" + condition + "\"}")
                        .statusCode());
    }

    @Test
    void aReaderThatTakesNothing() throws IOException {
        StringBuilder lines = new StringBuilder();
        for (int i = 0; i < 20_000; i++) {
            lines.append("{\"msg\":\"").append("z".repeat(400)).append("\"}\n");
        }
        assertEquals(200, Collectors.post(collector, "/lines", lines.toString()).statusCode());
        List<Socket> readers = new ArrayList<>();
        String question = QuestionJson.of(Question.all().oldest(1));
        for (int i = 0; i < 16; i++) {
            Socket socket = connected();
            send(
                    socket,
                    "POST /questions/events HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: " + question.length()
                            + "\r\n\r\n" + question);
            readers.add(socket);
        }
        long asked = System.nanoTime();
        assertEquals(
                200,
                Collectors.post(
                                collector,
                                "/questions",
                                QuestionJson.of(Question.all().counts("level")))
                        .statusCode());
        assertTrue(System.nanoTime() - asked < TimeUnit.SECONDS.toNanos(20));
        for (Socket each : readers) {
            each.close();
        }
    }

    @Test
    void aFullDisk() throws Exception {
        Assumptions.assumeTrue(SMALL_DISK != null, "there is no small disk: scripts/attacks mounts one if it may");
        Path store = Path.of(SMALL_DISK, "store");
        String lines = ("{\"msg\":\"" + "w".repeat(10_000) + "\"}\n").repeat(100);
        int stored = 0;
        int status = 200;
        for (int i = 0; i < 200 && status == 200; i++) {
            status = Collectors.post(collector, "/lines", lines).statusCode();
            stored += status == 200 ? 100 : 0;
        }
        assertEquals(503, status);
        assertEquals(
                503,
                Collectors.send(HttpRequest.newBuilder(collector.address().resolve("/ready")))
                        .statusCode());
        String counts = Collectors.post(
                        collector, "/questions", QuestionJson.of(Question.all().counts()))
                .body();
        assertTrue(counts.contains(Integer.toString(stored)), counts);
        Path filler = Path.of(SMALL_DISK, "filler");
        Files.delete(filler);
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
        while (status != 200 && System.nanoTime() < end) {
            status = Collectors.post(collector, "/lines", "{\"msg\":\"again\"}").statusCode();
            TimeUnit.MILLISECONDS.sleep(200);
        }
        assertEquals(200, status, store + ": " + problems);
        try (InputStream ready = Collectors.open(
                        HttpRequest.newBuilder(collector.address().resolve("/ready")))
                .body()) {
            assertTrue(new String(ready.readAllBytes(), StandardCharsets.UTF_8).contains("ready"));
        }
    }
}
