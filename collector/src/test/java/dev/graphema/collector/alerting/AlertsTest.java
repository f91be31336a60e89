package dev.graphema.collector.alerting;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.graphema.collector.alert.AlertReceiver;
import dev.graphema.collector.alert.AlertRule;
import dev.graphema.collector.alert.AlertTest;
import dev.graphema.condition.Condition;
import dev.graphema.condition.Name;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.query.source.MemorySource;
import dev.graphema.text.Times;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

@Timeout(60)
class AlertsTest {
    private static final Instant NOON = Instant.parse("2026-05-15T12:00:00Z");

    @TempDir
    private Path store;

    private final List<Event> events = new ArrayList<>();
    private final List<Event> changes = new CopyOnWriteArrayList<>();
    private final List<String> problems = new CopyOnWriteArrayList<>();

    private void event(Duration before, String service, Level level) {
        events.add(new Draft()
                .time(Times.epochNanos(NOON.minus(before)))
                .level(level)
                .service(service)
                .logger("skerry")
                .message("m")
                .fields(f -> f.put("kind", service + "-" + level.text()))
                .finish());
    }

    private static AlertRule rule(AlertTest test, String by, String... to) {
        return new AlertRule(
                "refused",
                Condition.parse("level >= error"),
                test,
                Duration.ofMinutes(5),
                by == null ? null : Name.of(by),
                Duration.ZERO,
                Duration.ofMinutes(5),
                List.of(to));
    }

    private Map<String, String> met(AlertTest test, String by) throws IOException {
        return new Evaluation(new MemorySource(events)).met(rule(test, by), NOON);
    }

    @Test
    void moreAndFewerEventsThanANumber() throws IOException {
        for (int i = 0; i < 4; i++) {
            event(Duration.ofMinutes(i), "deck", Level.ERROR);
        }
        event(Duration.ofMinutes(1), "gate", Level.ERROR);
        event(Duration.ofHours(3), "bank", Level.ERROR);
        event(Duration.ofMinutes(1), "gate", Level.INFO);
        assertEquals(Map.of("deck", "3 events in 5m"), met(new AlertTest.MoreThan(2), "service"));
        assertEquals(Map.of("", "4 events in 5m"), met(new AlertTest.MoreThan(3), null));
        assertEquals(Map.of(), met(new AlertTest.MoreThan(4), null));
        assertEquals(
                Map.of("bank", "0 events in 5m", "gate", "1 event in 5m"), met(new AlertTest.FewerThan(2), "service"));
        assertEquals(Map.of("bank", "0 events in 5m"), met(new AlertTest.Silence(), "service"));
    }

    @Test
    void valuesThatAreNew() throws IOException {
        event(Duration.ofDays(2), "deck", Level.ERROR);
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        event(Duration.ofMinutes(1), "gate", Level.ERROR);
        assertEquals(
                Map.of("gate-error", "1 event with a value of kind that is new"),
                met(new AlertTest.NewValue(Name.of("kind"), Duration.ofDays(30)), null));
        assertEquals(
                2,
                met(new AlertTest.NewValue(Name.of("kind"), Duration.ofDays(1)), null)
                        .size());
    }

    @Test
    void moreThanUsualAtThisHourAndWeekday() throws IOException {
        AlertTest test = new AlertTest.TimesUsual(2, 5);
        for (int i = 0; i < 30; i++) {
            event(Duration.ofSeconds(60 + i), "deck", Level.ERROR);
            event(Duration.ofSeconds(60 + i), "gate", Level.ERROR);
        }
        assertEquals(Map.of(), met(test, "service")); // nothing is known about what is usual
        for (int week = 1; week <= 5; week++) {
            for (int i = 0; i < 20 + week; i++) {
                event(Duration.ofDays(7L * week).plusSeconds(60 + i), "gate", Level.ERROR);
            }
            event(Duration.ofDays(7L * week).plusSeconds(60), "deck", Level.ERROR);
        }
        assertEquals(Map.of("deck", "30 events in 5m; usual at this time: 1"), met(test, "service"));
        assertEquals(Map.of(), met(new AlertTest.TimesUsual(2, 31), "service"));
    }

    private Alerts alerts(AlertRule rule, List<AlertReceiver> receivers) throws IOException {
        return new Alerts(
                List.of(rule),
                receivers,
                new Alerts.Context(
                        store,
                        new MemorySource(events),
                        changes::add,
                        () -> "http://127.0.0.1:7070",
                        InstantSource.fixed(NOON),
                        problems::add));
    }

    private List<String> stages(Alerts alerts, int... minutes) {
        List<String> stages = new ArrayList<>();
        for (int each : minutes) {
            alerts.evaluate(NOON.plus(Duration.ofMinutes(each)));
            stages.add(alerts.state().replaceAll(".*\"stage\":\"([a-z]*)\".*", "$1"));
        }
        return stages;
    }

    @Test
    void itFiresAndEndsAfterItsTimes() throws IOException {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        AlertRule rule = new AlertRule(
                "refused",
                Condition.EVERYTHING,
                new AlertTest.MoreThan(0),
                Duration.ofMinutes(5),
                null,
                Duration.ofMinutes(2),
                Duration.ofMinutes(3),
                List.of());
        try (Alerts alerts = alerts(rule, List.of())) {
            assertEquals(
                    List.of("pending", "pending", "firing", "firing", "clearing", "clearing", "quiet"),
                    stages(alerts, 0, 1, 2, 3, 5, 6, 8));
        }
        assertEquals(
                List.of("alert fires", "alert ended"),
                changes.stream().map(Event::message).toList());
        assertEquals("1 event in 5m", changes.get(0).fields().get("found"));
        assertEquals(List.of(), problems);
    }

    @Test
    void nothingFiresTwiceAfterARestart() throws IOException {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        try (Alerts alerts = alerts(rule(new AlertTest.MoreThan(0), "service"), List.of())) {
            assertEquals(List.of("firing"), stages(alerts, 0));
        }
        try (Alerts alerts = alerts(rule(new AlertTest.MoreThan(0), "service"), List.of())) {
            assertEquals(List.of("firing"), stages(alerts, 1));
        }
        assertEquals(1, changes.size());
        Files.writeString(store.resolve("alerts.jsonl"), "{\"rule\":\"refused\"}\n");
        String message = assertThrows(
                        IOException.class, () -> alerts(rule(new AlertTest.MoreThan(0), "service"), List.of()))
                .getMessage();
        assertTrue(message.contains("is damaged: delete alerts.jsonl"), message);
    }

    /** Receives notices, and refuses the first ones. */
    private static final class Desk implements AutoCloseable {
        private record Received(String body, Map<String, List<String>> headers, URI uri) {}

        private final HttpServer server =
                HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        private final BlockingQueue<Received> received = new LinkedBlockingQueue<>();
        private int refusals;

        Desk(int refusals) throws IOException {
            this.refusals = refusals;
            server.createContext("/", this::answer);
            server.start();
        }

        private synchronized void answer(HttpExchange exchange) throws IOException {
            String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
            boolean isRefused = refusals-- > 0;
            exchange.sendResponseHeaders(isRefused ? 503 : 204, -1);
            exchange.close();
            if (!isRefused) {
                received.add(new Received(body, exchange.getRequestHeaders(), url()));
            }
        }

        URI url() {
            return URI.create("http://127.0.0.1:" + server.getAddress().getPort() + "/alerts?desk=1");
        }

        @Override
        public void close() {
            server.stop(0);
        }
    }

    @Test
    void noticesAreSignedAndRepeatedUntilTheyAreAccepted() throws Exception {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        try (Desk desk = new Desk(1);
                Alerts alerts = alerts(
                        rule(new AlertTest.MoreThan(0), "service", "desk"),
                        List.of(new AlertReceiver.Web("desk", desk.url(), "shared secret")))) {
            alerts.evaluate(NOON);
            Desk.Received notice = desk.received.take();
            assertTrue(notice.body().contains("\"state\":\"firing\",\"group\":\"deck\""), notice.body());
            assertTrue(
                    notice.body()
                            .contains(
                                    "graphema find 'level >= error and service = \\\"deck\\\"' --during 2026-05-15T11:55:00Z/"),
                    notice.body());
            String digest = "sha-256=:"
                    + Base64.getEncoder()
                            .encodeToString(MessageDigest.getInstance("SHA-256")
                                    .digest(notice.body().getBytes(StandardCharsets.UTF_8)))
                    + ":";
            assertEquals(digest, header(notice, "Content-Digest"));
            String input = header(notice, "Signature-Input");
            String base = "\"@method\": POST\n\"@target-uri\": " + notice.uri() + "\n\"content-digest\": " + digest
                    + "\n\"idempotency-key\": " + header(notice, "Idempotency-Key") + "\n\"@signature-params\": "
                    + input.substring("alert=".length());
            Mac mac = Mac.getInstance("HmacSHA256");
            mac.init(new SecretKeySpec("shared secret".getBytes(StandardCharsets.UTF_8), "HmacSHA256"));
            assertEquals(
                    "alert=:" + Base64.getEncoder().encodeToString(mac.doFinal(base.getBytes(StandardCharsets.UTF_8)))
                            + ":",
                    header(notice, "Signature"));
            assertTrue(problems.get(0).contains("is not delivered to desk yet: the receiver answers with status 503"));
            while (Files.size(store.resolve("notices.jsonl")) > 0) {
                TimeUnit.MILLISECONDS.sleep(10);
            }
        }
    }

    private static String header(Desk.Received notice, String name) {
        return notice.headers().get(name).get(0);
    }

    @Test
    void whatWasNotDeliveredIsDeliveredAfterARestart() throws Exception {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        AlertRule rule = rule(new AlertTest.MoreThan(0), "service", "desk");
        try (Alerts alerts =
                alerts(rule, List.of(new AlertReceiver.Web("desk", URI.create("http://127.0.0.1:9/"), null)))) {
            alerts.evaluate(NOON);
        }
        try (Desk desk = new Desk(0);
                Alerts alerts = alerts(rule, List.of(new AlertReceiver.Web("desk", desk.url(), null)))) {
            alerts.start();
            Desk.Received notice = desk.received.take();
            assertTrue(notice.body().contains("\"alert\":\"refused\""), notice.body());
            assertFalse(notice.headers().containsKey("Signature"));
        }
    }

    @Test
    void noticesAreMailed() throws Exception {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        try (MailStandIn server = new MailStandIn();
                Alerts alerts = alerts(
                        rule(new AlertTest.MoreThan(0), "service", "mail"),
                        List.of(new AlertReceiver.Mail(
                                "mail",
                                "desk@skerry.example",
                                "alerts@skerry.example",
                                server.address(),
                                null,
                                null)))) {
            alerts.evaluate(NOON);
            String mail = server.take();
            assertTrue(mail.contains("Subject: refused (deck): 1 event in 5m"), mail);
            assertTrue(mail.contains("To: desk@skerry.example"), mail);
        }
        assertEquals(List.of(), problems);
    }

    @Test
    void aMutedAlertSendsNothing() throws Exception {
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        AlertRule rule = rule(new AlertTest.MoreThan(0), "service", "desk");
        try (Alerts alerts =
                alerts(rule, List.of(new AlertReceiver.Web("desk", URI.create("http://127.0.0.1:9/"), null)))) {
            assertTrue(alerts.mute("refused", NOON.plusSeconds(60)));
            assertFalse(alerts.mute("other", NOON.plusSeconds(60)));
            alerts.evaluate(NOON);
            assertEquals(true, changes.get(0).fields().get("muted"));
            assertFalse(Files.exists(store.resolve("notices.jsonl")));
        }
    }

    @Test
    void aTrialFindsWhenItWouldHaveFired() throws IOException {
        for (int i = 0; i < 5; i++) {
            event(Duration.ofHours(3).plusSeconds(i), "deck", Level.ERROR);
        }
        event(Duration.ofMinutes(1), "deck", Level.ERROR);
        List<Trial.Firing> firings = Trial.of(
                rule(new AlertTest.MoreThan(2), null), new MemorySource(events), NOON.minus(Duration.ofHours(6)), NOON);
        assertEquals(1, firings.size());
        assertEquals("5 events in 5m", firings.get(0).found());
        assertTrue(firings.get(0).ended().isBefore(NOON.minus(Duration.ofHours(2))));
    }
}
