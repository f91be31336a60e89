package dev.graphema.runtime;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Context;
import dev.graphema.Correlation;
import dev.graphema.Graphema;
import dev.graphema.Logger;
import dev.graphema.Scope;
import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.Settings;
import dev.graphema.sink.MemorySink;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import org.junit.jupiter.api.Test;

class RuntimeThresholdsTest {
    private static final Duration LIMIT = Duration.ofMinutes(2);

    private final MemorySink sink = new MemorySink();

    @Test
    void aThresholdSetByHandGoesBackByItself() {
        try (Graphema graphema = start()) {
            graphema.threshold("skerry", Level.DEBUG, Duration.ofSeconds(2));
            assertEquals(Level.DEBUG, graphema.threshold("skerry"));
            assertEquals(Level.DEBUG, graphema.threshold("skerry.deck.Lanes"), "also where the settings refine it");
            assertEquals(Level.INFO, graphema.threshold("skerryish"));
            graphema.logger("skerry.deck.Lanes").debug("seen");
            assertTrue(graphema.byHand().get(0).startsWith("skerry from debug on, until "));

            await().atMost(LIMIT).until(() -> graphema.threshold("skerry") == Level.INFO);
            graphema.logger("skerry.deck.Lanes").debug("not seen");
            assertEquals(List.of("seen"), messages(graphema));
            assertEquals(List.of(), graphema.byHand());
        }
    }

    @Test
    void aTimeEndsWhenItIsOverAlsoWhenTheClockIsSetMeanwhile() {
        AtomicReference<Instant> clock = new AtomicReference<>(Instant.parse("2026-05-15T06:00:00Z"));
        AtomicLong nanos = new AtomicLong(Long.MAX_VALUE - 5); // wherever it begins to count
        RuntimeThresholds steering =
                new RuntimeThresholds(Settings.builder().build().thresholds(), clock::get, nanos::get, () -> {});
        steering.set("skerry", Level.DEBUG, Duration.ofMinutes(5));
        steering.raise(Condition.parse("trace = a"), Level.TRACE, Duration.ofMinutes(5));

        clock.set(Instant.parse("2027-01-01T00:00:00Z"));
        nanos.addAndGet(Duration.ofMinutes(4).toNanos());
        steering.expire();
        assertEquals(2, steering.byHand().size());

        clock.set(Instant.parse("1970-01-01T00:00:00Z"));
        nanos.addAndGet(Duration.ofMinutes(1).toNanos());
        steering.expire();
        assertEquals(List.of(), steering.byHand());
    }

    @Test
    void itCanBeTakenBackAndTheOneFurtherDownCounts() {
        try (Graphema graphema = start()) {
            graphema.threshold("", Level.OFF, LIMIT);
            graphema.threshold("skerry.deck", Level.TRACE, LIMIT);
            graphema.logger("org.other").fatal("off");
            graphema.logger("skerry.deck").trace("on");
            assertTrue(graphema.resetThreshold(""));
            assertFalse(graphema.resetThreshold(""));
            graphema.logger("org.other").info("on again");
            graphema.resetByHand();
            graphema.logger("skerry.deck").trace("off again");
            assertEquals(List.of("on", "on again"), messages(graphema));
        }
    }

    @Test
    void aLoggerMadeLaterFollows() {
        try (Graphema graphema = start()) {
            graphema.threshold("skerry", Level.DEBUG, LIMIT);
            assertTrue(graphema.logger("skerry.made.later").enabled(Level.DEBUG));
        }
    }

    @Test
    void aTimeThatIsNoneIsRefused() {
        try (Graphema graphema = start()) {
            assertThrows(IllegalArgumentException.class, () -> graphema.threshold("a", Level.DEBUG, Duration.ZERO));
            assertThrows(
                    IllegalArgumentException.class,
                    () -> graphema.raise(Condition.EVERYTHING, Level.DEBUG, Duration.ofDays(400)));
        }
    }

    @Test
    void detailIsRaisedForATargetAndForNobodyElse() {
        try (Graphema graphema = start()) {
            Logger log = graphema.logger("skerry.deck");
            graphema.raise(Condition.parse("booking = B0047113"), Level.DEBUG, LIMIT);
            log.debug("nobody");
            try (Scope other = Context.open(f -> f.put("booking", "B0047999"))) {
                log.debug("somebody else");
            }
            try (Scope target = Context.open(f -> f.put("booking", "B0047113"))) {
                log.debug("the target");
                log.trace("more detail than was asked for");
                assertTrue(log.enabled(Level.DEBUG));
            }
            log.debug("nobody again");
            assertEquals(List.of("the target"), messages(graphema));
        }
    }

    @Test
    void raisedDetailEndsByItself() {
        try (Graphema graphema = start()) {
            Logger log = graphema.logger("skerry.deck");
            graphema.raise(Condition.parse("booking exists"), Level.DEBUG, Duration.ofMillis(50));
            try (Scope target = Context.open(f -> f.put("booking", "B0047113"))) {
                assertTrue(log.enabled(Level.DEBUG));
                await().atMost(LIMIT).until(() -> !log.enabled(Level.DEBUG));
            }
        }
    }

    @Test
    void aRaisedTraceTakesItsMarkToTheServicesThatAreCalled() {
        try (Graphema graphema = Graphema.build(settings -> settings.sink("memory", sink))) {
            graphema.raise(Condition.parse("booking = B0047113"), Level.DEBUG, LIMIT);
            assertNull(headers("B0047999").get("baggage"));
            assertEquals("graphema-detail=debug", headers("B0047113").get("baggage"));
        }
    }

    @Test
    void aMarkFromOutsideCountsOnlyWhereTheSettingsAllowIt() {
        Map<String, String> marked = Map.of(
                "traceparent", "00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01",
                "baggage", "graphema-detail=debug");
        Logger log = Logger.named("skerry.deck");
        try (Graphema graphema = Graphema.build(settings -> settings.sink("memory", sink))) {
            try (Scope request = Correlation.resume(marked::get)) {
                log.debug("not allowed");
            }
            assertEquals(List.of(), messages(graphema));
        }
        try (Graphema graphema =
                Graphema.build(settings -> settings.sink("memory", sink).detailFromCallers(true))) {
            try (Scope request = Correlation.resume(marked::get)) {
                log.debug("allowed");
                assertEquals("graphema-detail=debug", headersHere().get("baggage"), "and goes on to the next service");
            }
            log.debug("another request's");
            try (Scope request =
                    Correlation.resume(name -> name.equals("baggage") ? "graphema-detail=all%20of%20it" : null)) {
                log.trace("no level");
            }
            assertEquals(List.of("allowed"), messages(graphema));
            assertFalse(sink.events().get(0).fields().has("graphema-detail"), "it is no field of events");
        }
    }

    @Test
    void whatLeavesAsBaggageIsRedactedAsAnEventIs() {
        RedactionSettings redaction = new RedactionSettings(
                List.of("mail"), Map.of(), Map.of(), Map.of("booking", "last 3"), Map.of(), null, null);
        try (Graphema graphema = Graphema.build(settings -> settings.sink("memory", sink)
                        .contextOut("booking", "note")
                        .redaction(redaction));
                Scope note = Context.open(f -> f.put("note", "ada@mail.example"))) {
            assertEquals(
                    "booking=*****113,note=[redacted%20mail]",
                    headers("B0047113").get("baggage"));
        }
    }

    private static Map<String, String> headers(String booking) {
        try (Scope scope = Context.open(f -> f.put("booking", booking));
                Scope trace = Correlation.begin()) {
            return headersHere();
        }
    }

    private static Map<String, String> headersHere() {
        Map<String, String> headers = new HashMap<>();
        Correlation.current().headers(headers::put);
        return headers;
    }

    private Graphema start() {
        return Graphema.isolated(
                settings -> settings.level("skerry.deck", Level.WARN).sink("memory", sink));
    }

    private List<String> messages(Graphema graphema) {
        graphema.flush(LIMIT);
        return sink.events().stream().map(Event::message).toList();
    }
}
