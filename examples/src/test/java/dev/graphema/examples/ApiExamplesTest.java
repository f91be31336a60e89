package dev.graphema.examples;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.sun.net.httpserver.HttpServer;
import dev.graphema.CapturedContext;
import dev.graphema.Context;
import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Operation;
import dev.graphema.Scope;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.platform.LibraryEvents;
import dev.graphema.platform.PlatformEvents;
import dev.graphema.sql.StatementEvents;
import dev.graphema.testkit.CaptureEvents;
import dev.graphema.testkit.EventCapture;
import dev.graphema.web.CallEvents;
import dev.graphema.web.RequestFilter;
import dev.graphema.web.RequestOptions;
import java.io.IOException;
import java.math.BigDecimal;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Runs every example of docs/api.md: each of its blocks is here, line by line, between two marks. */
@CaptureEvents
class ApiExamplesTest {
    private static final Path PAGE = Path.of("../docs/api.md");

    // example: logger
    private static final Logger log = Logger.of(BookingDesk.class);
    // end

    // example: keys
    static final Key<String> LANE = Key.text("lane");
    static final Key<String> EMAIL = Key.text("passenger.email").sensitive("mail");
    // end

    private static final class BookingDesk {}

    record Vehicle(String kind, double length) {}

    private interface GateControl {
        void open() throws IOException;
    }

    private interface Fares {
        CompletableFuture<String> quoteLater(String sailing);
    }

    private static final class Deck {
        String reserve() {
            throw new IllegalStateException("A3 is taken");
        }

        String reserveAnother() {
            return "B2";
        }
    }

    private final String sailing = "SK-204";
    private final String reference = "B0047113";

    @Test
    void everyBlockOfThePageIsTested() throws IOException {
        PageBlocks.areIn(PAGE, ApiExamplesTest.class, 21);
    }

    @Test
    void levels(EventCapture events) {
        // example: levels
        log.debug("lane measured");
        log.info("seat held");
        log.warn("deck nearly full");
        log.error("deck space refused");
        // end
        events.assertEmitted("level = debug and message = \"lane measured\"");
        events.assertEmitted("level = error");
    }

    @Test
    void fields(EventCapture events) {
        Vehicle vehicle = new Vehicle("coach", 12.5);
        // example: fields
        log.info(
                "seat held",
                f -> f.put("sailing", sailing)
                        .put("passengers", 3)
                        .put("fare", new BigDecimal("82.50"))
                        .put("departs", Instant.parse("2026-05-15T06:30:00Z"))
                        .put("waited", Duration.ofMillis(250))
                        .put("vehicle", vehicle)
                        .group("deck", g -> g.put("lane", "A3").put("plan", 7)));
        // end
        events.assertEmitted(
                "passengers = 3 and fare = 82.5 and waited > 200ms and vehicle.length > 12 and deck.lane = A3");
        events.assertEmitted("departs > 2026-05-15T06:29:00Z");
        // example: put keys
        log.info("lane taken", f -> f.put(LANE, "A3").put(EMAIL, "ada@mail.example"));
        // end
        events.assertEmitted("lane = A3 and passenger.email = \"[redacted mail]\"");
    }

    @Test
    void nothingIsComputedForARefusedEvent() {
        try (Graphema graphema =
                Graphema.isolated(settings -> settings.level(Level.INFO).sink("none", event -> {}))) {
            Logger log = graphema.logger("skerry");
            List<String> plan = new ArrayList<>();
            // example: refused
            log.debug("plan drawn", f -> f.put("plan", describe(plan))); // describe is not called
            if (log.enabled(Level.DEBUG)) {
                log.debug("plan checked");
            }
            // end
            assertEquals(List.of(), plan);
        }
    }

    private static String describe(List<String> plan) {
        plan.add("described");
        return plan.toString();
    }

    @Test
    void loggersWithFieldsOfTheirOwn(EventCapture events) {
        // example: with
        Logger gate = log.with(f -> f.put("gate", "gate-2"));
        gate.info("boarding open");
        // end
        events.assertEmitted("gate = gate-2");
    }

    @Test
    void context(EventCapture events) throws Exception {
        // example: context
        try (Scope scope = Context.open(f -> f.put("booking", reference))) {
            log.info("seat held"); // carries the booking, and so does every event below
        }
        // end
        events.assertEmitted("booking = B0047113");
        try (Scope scope = Context.open(f -> f.put("booking", reference))) {
            // example: carry
            ExecutorService pool = Context.carry(Executors.newFixedThreadPool(4));
            CompletableFuture<Void> quoted = CompletableFuture.runAsync(() -> log.info("quoted"), pool);
            Thread thread = Context.carryInto(Executors.defaultThreadFactory()).newThread(() -> log.info("noted"));
            // end
            thread.start();
            thread.join();
            quoted.get();
            pool.shutdown();
            List<Runnable> callbacks = new ArrayList<>();
            // example: capture
            CapturedContext here = Context.capture();
            callbacks.add(here.runnable(() -> log.info("answered")));
            // end
            callbacks.forEach(Runnable::run);
        }
        events.assertEmitted(1, "message = quoted and booking = B0047113");
        events.assertEmitted(1, "message = noted and booking = B0047113");
        events.assertEmitted(1, "message = answered and booking = B0047113");
    }

    @Test
    void correlation(EventCapture events) {
        Map<String, String> request = Map.of("traceparent", "00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01");
        Map<String, String> outgoing = new HashMap<>();
        // example: correlation
        try (Scope scope = Correlation.resume(request::get)) { // or begins a new trace
            log.info("request taken");
            Correlation.current().headers(outgoing::put); // traceparent, tracestate, baggage
        }
        // end
        events.assertEmitted("trace = 4bf92f3577b34da6a3ce929d0e0e4736 and parent = 00f067aa0ba902b7");
        assertTrue(outgoing.get("traceparent").startsWith("00-4bf92f3577b34da6a3ce929d0e0e4736-"));
    }

    @Test
    void operations(EventCapture events) throws IOException {
        // example: measure
        int places = log.measure("count places", () -> 42);
        log.measure("write plan", () -> Files.readAllLines(PAGE));
        String lane = log.measure("reserve deck space", op -> {
            op.put("sailing", sailing).put("length", 12.5);
            log.info("lane taken"); // belongs to the operation
            return "A3";
        });
        log.perform("release deck space", op -> op.put("lane", lane)); // without a result
        // end
        assertEquals(42, places);
        events.assertEmitted("message = \"write plan\" and outcome = success");
        events.assertEmitted("message = \"reserve deck space\" and elapsed < 1h and length = 12.5");
        events.assertEmitted("message = \"release deck space\" and lane = A3");
        GateControl gateControl = () -> {
            throw new IOException("stuck");
        };
        assertThrows(IOException.class, () -> board(gateControl));
        events.assertEmitted("message = \"board vehicle\" and failure.message = stuck and lane = A3");
        // example: enter
        try (Operation method = log.enter("reserve")) {
            method.succeed();
        }
        // end
        events.assertEmitted("level = trace and message = enter and method = reserve");
        // example: current
        Operation.current().put("booking", reference); // into the operation around this code, if there is one
        // end
    }

    private static void board(GateControl gateControl) throws IOException {
        // example: operation
        try (Operation op = log.operation("board vehicle").put("lane", "A3")) {
            try {
                gateControl.open();
                op.succeed();
            } catch (IOException e) {
                op.fail(e);
                throw e;
            }
        }
        // end
    }

    @Test
    void stages(EventCapture events) {
        Fares fares = sailing -> CompletableFuture.completedFuture("82.50");
        // example: stage
        CompletableFuture<String> quote = log.measure("quote fare", () -> fares.quoteLater(sailing));
        // end
        assertEquals("82.50", quote.join());
        events.assertEmitted("message = \"quote fare\" and outcome = success");
    }

    @Test
    void catchBlocksInContext(EventCapture events) {
        Deck deck = new Deck();
        // example: context of a catch block
        String lane = Context.with(f -> f.put("booking", reference), () -> {
            try {
                return deck.reserve();
            } catch (IllegalStateException taken) {
                log.warn("lane taken", taken); // carries the booking
                return deck.reserveAnother();
            }
        });
        // end
        assertEquals("B2", lane);
        events.assertEmitted("message = \"lane taken\" and booking = B0047113 and failure.type exists");
    }

    @Test
    void failures(EventCapture events) {
        Exception problem = new IllegalStateException("lane A3 is held", new IOException("reset"));
        // example: failure
        log.error("deck space refused", problem, f -> f.put("lane", "A3"));
        // end
        events.assertEmitted(
                "failure.type ends IOException and failure.message has \"held\" and failure.fingerprint exists");
        assertThrows(
                IOException.class,
                () -> log.measure(
                        "outer",
                        () -> log.measure("inner", () -> {
                            throw new IOException("gone");
                        })));
        events.assertEmitted(1, "message in (inner, outer) and failure.type exists");
    }

    @Test
    void requestsAndCalls(EventCapture events) throws Exception {
        HttpServer server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        // example: server
        RequestOptions options = RequestOptions.builder()
                .exclude("/health")
                .headers("X-Channel")
                .queryParameters("day")
                .build();
        server.createContext("/", exchange -> exchange.sendResponseHeaders(204, -1))
                .getFilters()
                .add(0, RequestFilter.of(log, options));
        // end
        server.start();
        URI address = URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/sailings?day=today");
        // example: client
        HttpClient calls = new CallEvents(HttpClient.newHttpClient(), log);
        HttpResponse<Void> answer =
                calls.send(HttpRequest.newBuilder(address).build(), HttpResponse.BodyHandlers.discarding());
        // end
        assertEquals(204, answer.statusCode());
        server.stop(1);
        events.assertEmitted("message = request and method = GET and status = 204 and query = \"day=today\"");
        events.assertEmitted("message = call and status = 204");
    }

    @Test
    void lifecycle(@TempDir Path folder, EventCapture events) throws IOException {
        Path settings = folder.resolve("graphema.yaml");
        Path file = folder.resolve("events.jsonl");
        Files.writeString(settings, "sinks: {log: {type: file, path: \"" + file + "\"}}");
        // example: start
        try (Graphema graphema = Graphema.start(settings)) {
            log.info("started");
        }
        // end
        // example: build
        Graphema graphema = Graphema.build(
                s -> s.service("booking").level("skerry.deck", Level.DEBUG).file("log", file));
        graphema.flush(Duration.ofSeconds(1));
        graphema.close();
        // end
        assertEquals(1, Files.readAllLines(file).size());
        // example: settings
        Graphema.build(s -> s.console("screen")
                        .file("log", file)
                        .route("level >= info", "log")
                        .route("level >= warn", "screen")
                        .sample("message = heartbeat", "1 in 20")
                        .together()
                        .redact(r -> r.key("pin", "remove")))
                .close();
        // end
        events.assertNotEmitted("message = started");
    }

    @Test
    void thePlatform(EventCapture events) {
        // example: platform
        try (PlatformEvents platform = PlatformEvents.receive(Level.WARN)) {
            System.getLogger("org.other.library").log(System.Logger.Level.WARNING, "slow answer");
        }
        // end
        events.assertEmitted("logger = org.other.library and level = warn");
        // example: facade
        if (LibraryEvents.enabled("org.other.library", Level.WARN)) {
            LibraryEvents.accept("org.other.library", Level.WARN, null, "lane {} of {}", new Object[] {"A3", 6}, null);
        }
        // end
        events.assertEmitted("message = \"lane {} of {}\" and arguments = A3");
    }

    @Test
    void health() {
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("none", event -> {}))) {
            Map<String, String> report = new HashMap<>();
            // example: health
            graphema.sinks().forEach((name, sink) -> report.put(name, sink.working() + " since " + sink.since()));
            // end
            assertTrue(report.get("none").startsWith("true since "));
            assertTrue(graphema.isHealthy());
        }
    }

    @Test
    void statements(EventCapture events) throws SQLException {
        JdbcDataSource pool = new JdbcDataSource();
        pool.setURL("jdbc:h2:mem:");
        // example: statements
        DataSource lanes = StatementEvents.of(pool, log, Duration.ofMillis(200));
        try (Connection connection = lanes.getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute("create table lanes (name varchar(10), length double)");
        }
        // end
        events.assertEmitted(
                "message = statement and statement = \"create table lanes (name varchar(?), length double)\"");
    }

    @Test
    void tests(EventCapture events) {
        log.info("seat held", f -> f.put("passengers", 3));
        // example: tests
        events.assertEmitted("message = \"seat held\" and passengers > 2");
        events.assertNotEmitted("level >= error");
        events.assertNothingSensitive();
        // end
        assertFalse(events.events().isEmpty());
    }
}
