package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.verify;

import dev.graphema.event.Event;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Fields;
import dev.graphema.event.Key;
import dev.graphema.event.Level;
import dev.graphema.runtime.LoggerTree;
import dev.graphema.settings.RedactionSettings;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

class LoggerTest {
    private static final Key<String> LANE = Key.text("lane");
    private static final Key<Long> PLAN = Key.integer("plan");

    @Test
    void anEventReportsWhatWasEmittedAndWhere() throws Exception {
        try (TestRuntime runtime = TestRuntime.start()) {
            Instant before = Instant.now();
            runtime.logger("skerry.deck")
                    .info(
                            "seat held",
                            f -> f.put("passengers", 3).put(LANE, "A3").put(PLAN, 4L));
            Event event = runtime.single();

            assertEquals(Level.INFO, event.level());
            assertEquals("skerry.deck", event.logger());
            assertEquals("seat held", event.message());
            assertEquals("{passengers=3, lane=A3, plan=4}", event.fields().toString());
            assertEquals(Thread.currentThread().getName(), event.thread());
            assertFalse(event.time().isBefore(before));
            assertFalse(event.time().isAfter(Instant.now()));
        }
    }

    @ParameterizedTest
    @EnumSource(value = Level.class, names = "OFF", mode = EnumSource.Mode.EXCLUDE)
    void everyLevelHasItsFourWays(Level level) throws Exception {
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.level(Level.TRACE))) {
            Logger log = runtime.logger("skerry");
            Exception problem = new IllegalStateException("refused");
            Consumer<FieldWriter> fields = f -> f.put("lane", "A3");
            switch (level) {
                case TRACE -> {
                    log.trace("m");
                    log.trace("m", fields);
                    log.trace("m", problem);
                    log.trace("m", problem, fields);
                }
                case DEBUG -> {
                    log.debug("m");
                    log.debug("m", fields);
                    log.debug("m", problem);
                    log.debug("m", problem, fields);
                }
                case INFO -> {
                    log.info("m");
                    log.info("m", fields);
                    log.info("m", problem);
                    log.info("m", problem, fields);
                }
                case WARN -> {
                    log.warn("m");
                    log.warn("m", fields);
                    log.warn("m", problem);
                    log.warn("m", problem, fields);
                }
                case ERROR -> {
                    log.error("m");
                    log.error("m", fields);
                    log.error("m", problem);
                    log.error("m", new IllegalStateException("other"), fields);
                }
                default -> {
                    log.fatal("m");
                    log.fatal("m", fields);
                    log.fatal("m", problem);
                    log.fatal("m", new IllegalStateException("other"), fields);
                }
            }
            List<Event> events = runtime.events();

            assertEquals(4, events.size());
            assertTrue(events.stream().allMatch(event -> event.level() == level));
            assertEquals(
                    List.of(false, true, false, true),
                    events.stream().map(e -> e.fields().has("lane")).toList());
            assertEquals(
                    List.of(false, false, true, true),
                    events.stream().map(e -> e.failure() != null).toList());
        }
    }

    @Test
    void aRefusedEventComputesNothing() throws Exception {
        @SuppressWarnings("unchecked")
        Consumer<FieldWriter> fields = mock(Consumer.class);
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.level("skerry.deck.lanes", Level.OFF))) {
            runtime.logger("skerry.deck").debug("detail", fields);
            runtime.logger("skerry.deck.lanes").fatal("even this", fields);

            assertEquals(List.of(), runtime.events());
            verify(fields, never()).accept(any());
        }
    }

    @Test
    void enabledReportsWhatWouldBeTaken() throws Exception {
        try (TestRuntime runtime = TestRuntime.start(settings ->
                settings.level(Level.WARN).level("skerry.deck", Level.DEBUG).level("skerry.deck.lanes", Level.OFF))) {
            assertTrue(runtime.logger("skerry").enabled(Level.WARN));
            assertFalse(runtime.logger("skerry").enabled(Level.INFO));
            assertTrue(runtime.logger("skerry.deck.Plan").enabled(Level.DEBUG));
            assertFalse(runtime.logger("skerry.decks").enabled(Level.DEBUG));
            assertFalse(runtime.logger("skerry.deck.lanes.A3").enabled(Level.FATAL));
            assertFalse(runtime.logger("skerry.deck").enabled(Level.OFF));
        }
    }

    @Test
    void theSameNameGivesTheSameLogger() {
        assertSame(Logger.of(LoggerTest.class), Logger.named(LoggerTest.class.getName()));
    }

    @Test
    void loggersMadeBeforeTheStartWorkAfterItAndAfterARestart() throws Exception {
        Logger early = Logger.named("skerry.early");
        for (int i = 0; i < 2; i++) {
            try (TestRuntime runtime = TestRuntime.shared()) {
                early.info("after the start");
                assertEquals("after the start", runtime.single().message());
            }
        }
    }

    @Test
    void beforeTheStartEventsFromInfoOnAreTakenToBeReportedOrPrinted() {
        Logger early = Logger.of(new LoggerTree(), "skerry.early");

        assertTrue(early.enabled(Level.INFO));
        assertFalse(early.enabled(Level.DEBUG));
    }

    @Test
    void isolatedRuntimesDoNotMixTheirEvents() throws Exception {
        try (TestRuntime one = TestRuntime.start();
                TestRuntime two = TestRuntime.start()) {
            one.logger("same").info("for one");
            two.logger("same").info("for two");

            assertEquals("for one", one.single().message());
            assertEquals("for two", two.single().message());
        }
    }

    @Test
    void aNullMessageIsAnEmptyOne() throws Exception {
        try (TestRuntime runtime = TestRuntime.start()) {
            runtime.logger("skerry").info(null);
            assertEquals("", runtime.single().message());
            assertNotNull(runtime.logger("skerry").toString());
        }
    }

    @Test
    void aLoggerWithFieldsOfItsOwnPutsThemBehindAllOthers() {
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log =
                    runtime.logger("skerry.deck").with(f -> f.put("deck", 4).put("lane", "logger"));
            Logger refined = log.with(f -> f.put("deck", 5));
            try (Scope scope = Context.open(f -> f.put("lane", "context"))) {
                log.info("one", f -> f.put("own", 1));
                refined.info("two", f -> f.put("lane", "own"));
            }

            assertEquals(
                    "{own=1, lane=context, deck=4}",
                    runtime.events().get(0).fields().toString());
            assertEquals("{lane=own, deck=5}", runtime.events().get(1).fields().toString());
            assertEquals("skerry.deck", refined.name());
        }
    }

    @Test
    void theCallerIsReportedOnlyForTheLoggersThatTheSettingsName() {
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.caller("skerry.deck"))) {
            runtime.logger("skerry.deck.Lanes").info("here");
            runtime.logger("skerry.decks").info("not here");
            runtime.logger("skerry.deck").measure("work", () -> {});

            String caller = (String) runtime.events().get(0).fields().get("caller");
            assertTrue(caller.startsWith("org.junit") || caller.startsWith("java"), caller);
            assertFalse(runtime.events().get(1).fields().has("caller"));
            assertTrue(runtime.events().get(2).fields().has("caller"));
        }
    }

    @Test
    void settingsDefineTheReplacementOfASensitiveValue() {
        Key<String> mail = Key.text("passenger.email").sensitive("mail");
        Key<Duration> age = Key.duration("age").sensitive("age");
        Key<String> nickname = Key.text("nickname").sensitive("nickname");
        RedactionSettings redaction = new RedactionSettings(
                List.of("mail"),
                Map.of(),
                Map.of(),
                Map.of(),
                Map.of("mail", "pseudonym", "nickname", "remove", "age", "last 1"),
                "k1",
                "0123456789abcdef");
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.redaction(redaction))) {
            Logger log = Logger.named("skerry");
            try (Scope scope = Context.open(f -> f.put(mail, "ada@mail.example"))) {
                log.info("m", f -> f.put(nickname, "Ada").put(age, Duration.ofDays(9)));
                log.measure("work", () -> Operation.current().put(mail, "ada@mail.example"));
            }
            Fields fields = runtime.events().get(0).fields();
            String pseudonym = (String) fields.get("passenger.email");
            assertTrue(pseudonym.startsWith("pseudonym-k1-"), pseudonym);
            assertFalse(fields.has("nickname"));
            assertEquals("*****H", fields.get("age"), "PT216H, all but the last hidden");
            assertEquals(pseudonym, runtime.events().get(1).fields().get("passenger.email"));
        }
    }

    @Test
    void theValueOfASensitiveKeyIsNotEvenCaptured() {
        Key<Object> mail = Key.of("passenger.email", Object.class).sensitive("mail");
        Object value = mock(Object.class);
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.detect())) {
            runtime.logger("skerry").info("m", f -> f.put(mail, value).group("g", g -> g.put(mail, null)));

            assertEquals("[redacted mail]", runtime.single().fields().get("passenger.email"));
            assertEquals(null, runtime.single().fields().get("g.passenger.email"));
            assertEquals("mail", mail.sensitivity());
        }
    }
}
