package dev.graphema.collector;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.collector.access.Role;
import dev.graphema.collector.access.Token;
import dev.graphema.collector.access.Tokens;
import dev.graphema.event.Event;
import dev.graphema.query.Question;
import dev.graphema.query.source.QueryExecutor;
import dev.graphema.remote.RemoteSource;
import dev.graphema.settings.RedactionSettings;
import java.io.IOException;
import java.net.http.HttpRequest;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What a collector adds to events, and what it redacts. */
class OriginTest {
    private static final String OWN =
            "{\"time\":\"2026-05-15T05:00:00.000000000Z\",\"level\":\"info\",\"service\":\"deck\","
                    + "\"logger\":\"skerry.deck\",\"message\":\"lane closed\",\"thread\":\"main\",\"sequence\":1";

    @TempDir
    private Path folder;

    private int stores;

    /** Sends lines to a collector, and returns all its events. */
    private List<Event> stored(String lines, UnaryOperator<CollectorOptions> changed) throws IOException {
        Path store = folder.resolve("store" + stores++);
        Tokens tokens = new Tokens(store);
        String sender = tokens.create(Token.of("deck-2", Role.SEND).in("test"));
        String reader = tokens.create(Token.of("mara", Role.READ));
        List<Event> events = new ArrayList<>();
        CollectorOptions options = CollectorOptions.usual(store, problem -> {
                    throw new AssertionError(problem);
                })
                .port(0)
                .environment("production");
        try (Collector collector = Collector.start(changed.apply(options))) {
            int status = Collectors.send(
                            HttpRequest.newBuilder(collector.address().resolve("/lines"))
                                    .header("Authorization", "Bearer " + sender)
                                    .POST(HttpRequest.BodyPublishers.ofString(lines)))
                    .statusCode();
            assertEquals(200, status);
            QueryExecutor.read(
                    Question.all(), RemoteSource.at(collector.address(), reader), progress -> true, event -> {
                        events.add(event);
                        return true;
                    });
        }
        return events;
    }

    private List<Event> stored(String lines) throws IOException {
        return stored(lines, options -> options);
    }

    private static void assertStamped(Event event) {
        assertEquals("deck-2", event.fields().get("collector.source"), event.toString());
        assertEquals("test", event.fields().get("collector.environment"));
        assertNotNull(event.fields().get("collector.arrived"));
    }

    @Test
    void eventsOfAllFormsStateWhereTheyComeFrom() throws IOException {
        List<Event> events = stored(OWN + ",\"fields\":{\"lane\":\"A3\"}}\n" + OWN + "}\r\n"
                + "{\"ts\":\"2026-05-15T05:00:01Z\",\"msg\":\"refused\",\"lane\":\"B1\"}\n"
                + "2026-05-15 05:00:02 ERROR gate barrier is stuck\n\tat skerry.gate.Barrier.open(Barrier.java:17)\n"
                + "{}\n"
                + "<165>1 2026-05-15T05:00:03Z host app 77 - - started\n");
        assertEquals(6, events.size(), events.toString());
        events.forEach(OriginTest::assertStamped);
        List<String> messages = events.stream().map(Event::message).toList();
        assertTrue(messages.containsAll(List.of("lane closed", "refused", "started")), messages.toString());
        assertEquals("A3", events.get(0).fields().get("lane"));
    }

    @Test
    void linesWithBracesAndFailuresAreStampedToo() throws IOException {
        String failure =
                ",\"fingerprint\":\"ee0caf7304a44c61\",\"failure\":{\"type\":\"skerry.LaneException\",\"message\":\"}{\",\"frames\":[]}";
        List<Event> events = stored(OWN.replace("closed", "{closed}}") + ",\"fields\":{\"a\":\"}\",\"b\":{\"c\":1}}}\n"
                + OWN + ",\"fields\":{\"lane\":\"A3\"}" + failure + "}\n"
                + OWN + failure + "}\n"
                + OWN + ",\"fields\":{}}\n"
                + OWN + ",\"fields\":{\"a\":1},\"other\":{\"b\":2}}\n");
        assertEquals(5, events.size());
        events.forEach(OriginTest::assertStamped);
        assertEquals(2, events.stream().filter(event -> event.failure() != null).count());
        assertTrue(events.stream().anyMatch(event -> "lane {closed}}".equals(event.message())));
        assertTrue(events.stream()
                .anyMatch(event -> Long.valueOf(2).equals(event.fields().get("other.b"))));
    }

    @Test
    void aTextWithoutTimeHasThatOfItsArrival() throws IOException {
        for (String line : new String[] {"barrier is stuck\n", "{\"msg\":\"barrier is stuck\"}\n"}) {
            Event event = stored(line).get(0);
            assertTrue(event.hasTime());
            assertStamped(event);
            assertEquals("barrier is stuck", event.message());
        }
    }

    @Test
    void sendersCannotForgeIt() throws IOException {
        String forged = "\"collector\":{\"source\":\"bank\",\"environment\":\"production\",\"arrived\":\"x\"}";
        List<Event> events = stored(OWN + ",\"fields\":{" + forged + "}}\n"
                + OWN + "," + forged + "}\n"
                + OWN + ",\"fields\":{\"collector.source\":\"bank\"}}\n"
                + OWN + "," + forged.replace("collector", "\\u0063ollector") + "}\n"
                + "{\"msg\":\"a\"," + forged + "}\n"
                + "time=2026-05-15T05:00:00Z level=info msg=b collector.source=bank\n");
        assertEquals(6, events.size());
        for (Event event : events) {
            assertStamped(event);
            assertTrue(event.fields().has("sender.collector") || event.fields().has("sender.collector.source"));
        }
    }

    @Test
    void aDamagedLineIsKept() throws IOException {
        String cut = OWN + ",\"fields\":{\"lane\":";
        List<Event> events = stored(cut + "\n" + OWN + "}");
        assertTrue(events.stream().anyMatch(event -> event.fields().has("collector.source")));
    }

    @Test
    void nothingIsAddedIfNotWanted() throws IOException {
        List<Event> events = stored(OWN + "}", options -> options.stamping(false));
        assertNull(events.get(0).fields().get("collector"));
    }

    @Test
    void secretsAreRedactedInAllForms() throws IOException {
        RedactionSettings rules = new RedactionSettings(
                RedactionSettings.USUAL.detectors(), Map.of(), Map.of(), Map.of("pin", "remove"), Map.of(), null, null);
        List<Event> events = stored(
                OWN
                        + ",\"fields\":{\"password\":\"hunter2hunter2\",\"pin\":\"4711\",\"card\":\"4111 1111 1111 1111\"}}\n"
                        + "2026-05-15 05:00:02 INFO bank charged card 4111111111111111\n"
                        + "{\"msg\":\"paid with 4111111111111111\",\"password\":\"hunter2hunter2\"}\n"
                        + "{\"msg\":\"cut 4111111111111111\",\"x\":\n",
                options -> options.redaction(rules));
        String all = events.toString();
        assertFalse(all.contains("4111") || all.contains("hunter2") || all.contains("4711"), all);
        assertTrue(all.contains("[redacted payment-card]"), all);
        assertTrue(events.size() >= 3);
    }
}
