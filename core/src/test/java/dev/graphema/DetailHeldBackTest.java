package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import dev.graphema.explain.Explanation;
import dev.graphema.holdback.HoldBackRule;
import dev.graphema.sampling.SamplingRule;
import dev.graphema.settings.RedactionSettings;
import dev.graphema.settings.Settings;
import dev.graphema.sink.MemorySink;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** Detail that comes out only when something happens, from the logger to the sink. */
class DetailHeldBackTest {
    private static final Consumer<Settings.Builder> HOLDING =
            settings -> settings.level(Level.DEBUG).holdBack(HoldBackRule.USUAL);

    @Test
    void aFailedRequestBringsItsDetailAndOthersDoNot() {
        try (TestRuntime runtime = TestRuntime.shared(HOLDING)) {
            Logger log = Logger.named("skerry.deck");
            request(log, false);
            request(log, true);

            List<Event> events = runtime.events();
            assertEquals(
                    List.of("booked", "lane tried", "lock asked for", "booking failed", "passenger informed"),
                    events.stream().map(Event::message).toList());
            assertEquals(
                    List.of(false, true, true, false, true),
                    events.stream().map(Event::held).toList());
            assertEquals(
                    LongStream.rangeClosed(1, 5).boxed().toList(),
                    events.stream().map(Event::sequence).toList(),
                    "numbered as they go out, without a gap");
            assertTrue(events.get(1).epochNanos() <= events.get(2).epochNanos());
            assertEquals("B0047113", events.get(1).fields().get("booking"));
            assertEquals(2, runtime.graphema().held().released());
            assertEquals(2, runtime.graphema().held().events());
        }
    }

    private static void request(Logger log, boolean fails) {
        try (Scope trace = Correlation.begin();
                Scope context = Context.open(f -> f.put("booking", "B0047113"))) {
            log.debug("lane tried");
            log.debug("lock asked for");
            if (fails) {
                log.error("booking failed");
                log.debug("passenger informed");
            } else {
                log.info("booked");
            }
        }
    }

    @Test
    void whatBelongsToNoTraceIsWrittenAsEver() {
        try (TestRuntime runtime = TestRuntime.shared(HOLDING)) {
            Logger.named("skerry").debug("of no trace");
            assertEquals("of no trace", runtime.single().message());
            assertFalse(runtime.single().held());
        }
    }

    @Test
    void aSlowOperationReleasesDetailAndIsNotSampled() {
        try (TestRuntime runtime = TestRuntime.shared(settings -> HOLDING.andThen(
                        more -> more.holdBack(HoldBackRule.USUAL.releaseWhen(Condition.parse("elapsed >= 0s")))
                                .sample(new SamplingRule(Condition.EVERYTHING, 1L << 40, true)))
                .accept(settings))) {
            Logger log = Logger.named("skerry");
            log.measure("reserve", () -> log.debug("lane tried"));
            log.info("sampled away");
            assertEquals(
                    List.of("lane tried", "reserve"),
                    runtime.events().stream().map(Event::message).toList());
        }
    }

    @Test
    void whatSomebodyAskedForIsNotHeld() {
        try (TestRuntime runtime = TestRuntime.shared(HOLDING);
                Scope trace = Correlation.begin()) {
            runtime.graphema().threshold("skerry.deck", Level.DEBUG, Duration.ofMinutes(1));
            runtime.graphema().raise(Condition.parse("booking = B1"), Level.TRACE, Duration.ofMinutes(1));
            Logger.named("skerry.deck").debug("asked for");
            Logger.named("skerry.gate").debug("held");
            try (Scope context = Context.open(f -> f.put("booking", "B1"))) {
                Logger.named("skerry.gate").debug("asked for by booking");
            }
            assertEquals(
                    List.of("asked for", "asked for by booking"),
                    runtime.events().stream().map(Event::message).toList());
            runtime.graphema().resetByHand();
            Logger.named("skerry.deck").debug("held");
            assertEquals(2, runtime.events().size());
        }
    }

    @Test
    void groupsDoNotDependOnRedactedValues() {
        RedactionSettings redaction =
                new RedactionSettings(List.of(), Map.of(), Map.of(), Map.of("order", "remove"), Map.of(), null, null);
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.level(Level.DEBUG)
                .holdBack(HoldBackRule.USUAL.by("order"))
                .redaction(redaction))) {
            runtime.logger("skerry").debug("of no group any more", f -> f.put("order", 7));
            assertEquals("of no group any more", runtime.single().message());
        }
    }

    @Test
    void rulesMayAskForTheServiceAndItsInstance() {
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.service("deck")
                        .instance("deck-2")
                        .level(Level.DEBUG)
                        .holdBack(HoldBackRule.USUAL.releaseWhen(
                                Condition.parse("service = deck and instance = deck-2 and level >= warn")))
                        .sample(new SamplingRule(Condition.parse("service = deck"), 1L << 50, false)));
                Scope trace = Correlation.begin()) {
            Logger log = Logger.named("skerry");
            log.debug("held");
            log.info("sampled away");
            log.warn("lets it out");
            assertEquals(
                    List.of("held", "lets it out"),
                    runtime.events().stream().map(Event::message).toList());
        }
    }

    @Test
    void detailThatHadToGoIsReportedOf() {
        try (TestRuntime runtime = TestRuntime.shared(
                        settings -> settings.level(Level.DEBUG).holdBack(HoldBackRule.USUAL.events(2)));
                Scope trace = Correlation.begin()) {
            Logger log = Logger.named("skerry");
            for (int i = 0; i < 5; i++) {
                log.debug("tried");
            }
            log.error("failed");
            List<Event> events = runtime.events();
            assertEquals(
                    List.of("tried", "tried", "earlier detail is missing", "failed"),
                    events.stream().map(Event::message).toList());
            assertEquals(3L, events.get(2).fields().get("count"));
            assertEquals(events.get(0).trace(), events.get(2).trace());
        }
    }

    @Test
    void aChangeOfTheSettingsKeepsWhatIsHeldUnlessItIsRedactedDifferently() {
        MemorySink sink = new MemorySink();
        Settings.Builder before = Settings.builder().sink("memory", sink);
        HOLDING.accept(before);
        Settings settings = before.build();
        Settings.Builder after =
                Settings.builder().level("skerry.gate", Level.OFF).sink("memory", sink);
        HOLDING.accept(after);
        Settings.Builder other = Settings.builder().detect("mail").sink("memory", sink);
        HOLDING.accept(other);
        try (Graphema graphema = Graphema.start(settings)) {
            Logger log = Logger.named("skerry");
            try (Scope trace = Correlation.begin()) {
                log.debug("kept");
                graphema.reload(after.build());
                log.error("failed");
            }
            try (Scope trace = Correlation.begin()) {
                log.debug("gone");
                graphema.reload(other.build());
                log.error("failed again");
            }
            assertTrue(graphema.flush(Duration.ofSeconds(10)));
            assertEquals(
                    List.of("kept", "failed", "failed again"),
                    sink.events().stream().map(Event::message).toList());
        }
    }

    @Test
    void theExplanationContainsIt() {
        try (TestRuntime runtime = TestRuntime.start(HOLDING)) {
            Explanation detail = runtime.graphema().explain("skerry", Level.DEBUG, f -> {});
            assertFalse(detail.isCertain());
            assertTrue(
                    detail.toString()
                            .contains(
                                    "perhaps  hold-back  debug is below info: if it has a trace, held with its trace, and"
                                            + " written only if an event of it has level >= error  (the program)"),
                    detail.toString());
            Explanation error = runtime.graphema().explain("skerry", Level.ERROR, f -> {});
            assertTrue(error.toString().contains("releases the held events of its trace"), error.toString());
            assertTrue(error.isCertain());

            runtime.graphema().threshold("skerry", Level.DEBUG, Duration.ofMinutes(1));
            Explanation asked = runtime.graphema().explain("skerry", Level.DEBUG, f -> {});
            assertTrue(asked.toString().contains("it was requested at run time, so it is not held"), asked.toString());
            assertEquals(
                    Map.of("groups", 0L, "events", 0L),
                    Map.of(
                            "groups",
                            (long) runtime.graphema().held().groups(),
                            "events",
                            runtime.graphema().held().events()));
        }
    }
}
