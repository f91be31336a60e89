package dev.graphema.platform;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.TestRuntime;
import dev.graphema.event.Event;
import dev.graphema.event.Level;
import java.time.Instant;
import java.util.List;
import org.junit.jupiter.api.Test;

class PlatformEventsTest {
    private final java.util.logging.Logger root = java.util.logging.Logger.getLogger("");

    @Test
    void bothOfThePlatformsWaysOfSpeakingAreReceived() {
        try (TestRuntime runtime = TestRuntime.shared();
                PlatformEvents platform = PlatformEvents.receive(Level.INFO)) {
            java.util.logging.Logger.getLogger("org.other")
                    .log(java.util.logging.Level.WARNING, "lane {0} of {1}", new Object[] {"A3", 6});
            System.getLogger("org.system").log(System.Logger.Level.ERROR, "gone", new IllegalStateException("x"));
            List<Event> events = runtime.events();

            assertEquals("lane A3 of 6", events.get(0).message());
            assertEquals("org.other", events.get(0).logger());
            assertEquals(Level.WARN, events.get(0).level());
            assertEquals(Level.ERROR, events.get(1).level());
            assertEquals("x", events.get(1).failure().message());
            assertEquals(2, events.size());
        }
    }

    @Test
    void anAdapterOfAnotherFacadeBringsInItsEvents() {
        try (TestRuntime runtime = TestRuntime.shared(s -> s.level("org.quiet", Level.ERROR))) {
            Instant time = Instant.parse("2026-05-15T06:31:02Z");
            assertTrue(LibraryEvents.enabled("org.other", Level.INFO));
            assertFalse(LibraryEvents.enabled("org.quiet", Level.INFO));
            LibraryEvents.accept(
                    "org.other",
                    Level.WARN,
                    time,
                    "lane {} of {}",
                    new Object[] {"A3", 6},
                    new IllegalStateException("x"));
            LibraryEvents.accept("org.quiet", Level.INFO, null, "hidden", null, null);
            LibraryEvents.accept(null, Level.INFO, null, null, null, null);
            List<Event> events = runtime.events();

            assertEquals("lane {} of {}", events.get(0).message());
            assertEquals(List.of("A3", 6L), events.get(0).fields().get("arguments"));
            assertEquals(time, events.get(0).time());
            assertEquals("x", events.get(0).failure().message());
            assertEquals("", events.get(1).message());
            assertEquals(2, events.size());
        }
    }

    @Test
    void aParameterThatThrowsAnErrorCostsItsEventAndNothingElse() {
        Object hostile = new Object() {
            @Override
            public String toString() {
                throw new AssertionError("hostile");
            }
        };
        try (TestRuntime runtime = TestRuntime.shared();
                PlatformEvents platform = PlatformEvents.receive(Level.INFO)) {
            java.util.logging.Logger logger = java.util.logging.Logger.getLogger("org.other");
            logger.log(java.util.logging.Level.INFO, "lane {0}", hostile);
            logger.info("after");

            assertEquals(
                    List.of("after"),
                    runtime.events().stream().map(Event::message).toList());
            assertEquals(1, runtime.graphema().refused());
        }
    }

    @Test
    void levelsAreMappedByTheirNumbersAndOurThresholdsHold() {
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.level("org.fine", Level.TRACE));
                PlatformEvents platform = PlatformEvents.receive(Level.TRACE)) {
            for (String name : List.of("org.fine", "org.usual")) {
                java.util.logging.Logger logger = java.util.logging.Logger.getLogger(name);
                logger.severe("m");
                logger.warning("m");
                logger.info("m");
                logger.config("m");
                logger.fine("m");
                logger.finer("m");
                logger.finest("m");
            }
            List<Event> events = runtime.events();

            assertEquals(
                    List.of(Level.ERROR, Level.WARN, Level.INFO, Level.DEBUG, Level.DEBUG, Level.TRACE, Level.TRACE),
                    events.stream()
                            .filter(e -> e.logger().equals("org.fine"))
                            .map(Event::level)
                            .toList());
            assertEquals(
                    3,
                    events.stream().filter(e -> e.logger().equals("org.usual")).count());
        }
    }

    @Test
    void eventsOfAnEventsValuesMakeNoLoop() {
        Object talkative = new Object() {
            @Override
            public String toString() {
                java.util.logging.Logger.getLogger("org.loop").info("again");
                return "value";
            }
        };
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.sink("loop", event -> {
                    java.util.logging.Logger.getLogger("org.loop").info("from the sink");
                }));
                PlatformEvents platform = PlatformEvents.receive(Level.INFO)) {
            java.util.logging.Logger.getLogger("org.other").log(java.util.logging.Level.INFO, "{0}", talkative);

            assertEquals("value", runtime.single().message());
        }
    }

    @Test
    void whenItEndsThePlatformIsAsItWas() {
        var handlers = root.getHandlers();
        var level = root.getLevel();
        PlatformEvents.receive(Level.TRACE).close();

        assertArrayEquals(handlers, root.getHandlers());
        assertSame(level, root.getLevel());
    }

    @Test
    void anExceptionThatEndsAThreadIsReported() throws InterruptedException {
        Thread.UncaughtExceptionHandler before = Thread.getDefaultUncaughtExceptionHandler();
        boolean[] called = {false};
        Thread.setDefaultUncaughtExceptionHandler((thread, problem) -> called[0] = true);
        try (TestRuntime runtime = TestRuntime.shared()) {
            PlatformEvents.receiveUncaught();
            Thread thread = new Thread(
                    () -> {
                        throw new IllegalStateException("deck plan lost");
                    },
                    "planner");
            thread.start();
            thread.join();

            assertEquals("deck plan lost", runtime.single().failure().message());
            assertEquals("planner", runtime.single().thread());
            assertEquals(Level.FATAL, runtime.single().level());
            assertEquals(true, called[0]);
        } finally {
            Thread.setDefaultUncaughtExceptionHandler(before);
        }
    }
}
