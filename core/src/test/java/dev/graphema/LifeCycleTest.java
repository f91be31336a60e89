package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.graphema.event.Event;
import dev.graphema.event.GraphemaException;
import dev.graphema.event.Level;
import dev.graphema.settings.Settings;
import dev.graphema.settings.SinkSettings;
import dev.graphema.sink.MemorySink;
import dev.graphema.sink.SinkKind;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CompletionException;
import java.util.concurrent.ExecutionException;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LifeCycleTest {
    @TempDir
    Path folder;

    @Test
    void whenTheLatestRuntimeEndsTheOneBeforeHasTheLoggersAgain() {
        MemorySink one = new MemorySink();
        MemorySink two = new MemorySink();
        Logger log = Logger.named("skerry.two");
        try (Graphema first =
                Graphema.build(settings -> settings.level(Level.DEBUG).sink("one", one))) {
            try (Graphema second = Graphema.build(settings -> settings.sink("two", two))) {
                log.debug("refused by the second");
                log.info("to the second");
            }
            log.debug("to the first");
            first.flush(Duration.ofSeconds(10));
        }

        assertEquals(
                List.of("to the first"),
                one.events().stream().map(Event::message).toList());
        assertEquals(
                List.of("to the second"),
                two.events().stream().map(Event::message).toList());
    }

    @Test
    void aReloadAfterTheEndIsRefusedAndOpensNothing() {
        Graphema graphema = Graphema.isolated(settings -> settings.sink("memory", new MemorySink()));
        graphema.close();
        Path file = folder.resolve("log.jsonl");
        Settings settings =
                Settings.builder().sink("log", SinkSettings.file(file)).build();

        assertThrows(IllegalStateException.class, () -> graphema.reload(settings));
        assertFalse(Files.exists(file));
    }

    @Test
    void aReloadToASinkThatCannotBeOpenedIsRefusedAlsoWhenItReplacesOneOfTheSameName() throws Exception {
        Path blocked = Files.writeString(folder.resolve("blocked"), "a file");
        Path file = folder.resolve("log.jsonl");
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("log", SinkSettings.file(file)))) {
            Settings broken = Settings.builder()
                    .sink("log", SinkSettings.file(blocked.resolve("below/log.jsonl")))
                    .build();
            GraphemaException problem = assertThrows(GraphemaException.class, () -> graphema.reload(broken));
            graphema.logger("skerry").info("after the refusal");
            Settings right = Settings.builder()
                    .sink("log", SinkSettings.file(folder.resolve("other.jsonl")))
                    .build();
            graphema.reload(right);
            graphema.logger("skerry").info("after the right one");

            assertTrue(problem.getMessage().contains("is not a folder"), problem.getMessage());
        }
        assertEquals(1, Files.readAllLines(file).size());
        assertEquals(1, Files.readAllLines(folder.resolve("other.jsonl")).size());
    }

    @ParameterizedTest
    @ValueSource(classes = {NullPointerException.class, NoClassDefFoundError.class})
    void aKindOfSinkThatFailsLeavesNothingOpen(Class<? extends Throwable> failure) throws IOException {
        SinkKind kind = mock(SinkKind.class);
        when(kind.open(any(), any())).thenThrow(failure);
        Path file = folder.resolve("log.jsonl");
        GraphemaException refused = assertThrows(
                GraphemaException.class,
                () -> Graphema.isolated(settings -> settings.file("log", file).sink("other", SinkSettings.of(kind))));
        assertTrue(
                refused.getMessage().startsWith("the sink other cannot be opened: " + failure.getName()),
                refused::toString);

        try (Graphema graphema = Graphema.isolated(settings -> settings.file("log", file))) {
            graphema.logger("skerry").info("after");
        }
        assertTrue(Files.readString(file).contains("after"), "nobody else has the file");
    }

    @Test
    void whatAReplacedSinkHasWrittenAndLostStaysCounted() {
        try (Graphema graphema = Graphema.isolated(settings -> settings.sink("old", event -> {
            if (event.message().equals("bad")) {
                throw new IllegalStateException();
            }
        }))) {
            graphema.logger("skerry").warn("bad");
            graphema.logger("skerry").warn("good");
            graphema.flush(Duration.ofSeconds(10));
            graphema.reload(Settings.builder().sink("new", new MemorySink()).build());

            assertEquals(Map.of(Level.WARN, 1L), graphema.lost().get("old"));
            assertTrue(graphema.written().get("old") >= 1);
        }
    }

    @Test
    void aFailureIsRecordedOnceHoweverItComesBack() {
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log = runtime.logger("skerry");
            IllegalStateException problem = new IllegalStateException("refused");
            assertThrows(
                    IllegalStateException.class,
                    () -> log.measure("work", () -> {
                        throw problem;
                    }));
            log.error("caught", problem);
            log.error("from a task", new ExecutionException(problem));
            log.error("wrapped", new RuntimeException("booking B1 failed", problem));
            List<Event> events = runtime.events();
            String fingerprint = events.get(0).failure().fingerprint();

            for (Event event : events.subList(1, 4)) {
                assertNull(event.failure());
                assertEquals(fingerprint, event.fields().get("failure_recorded"));
            }
            assertNull(events.get(1).fields().get("failure_wrapper"));
            assertEquals(
                    "java.lang.RuntimeException: booking B1 failed",
                    events.get(3).fields().get("failure_wrapper"));
        }
    }

    @Test
    void aFailureOfAPoolIsRecordedOnceThoughAnotherThreadReportsItAgain() throws Exception {
        try (TestRuntime runtime = TestRuntime.start()) {
            Logger log = runtime.logger("skerry");
            CompletableFuture<Void> task = CompletableFuture.runAsync(() -> log.measure("task", () -> {
                throw new IllegalStateException("refused");
            }));
            CompletionException problem = assertThrows(CompletionException.class, task::join);
            log.error("the task failed", problem);

            assertEquals(
                    1,
                    runtime.events().stream()
                            .filter(event -> event.failure() != null)
                            .count());
        }
    }

    @Test
    void whatWasOnlyRecordedBelowErrorIsRecordedAgainAtError() {
        try (TestRuntime runtime = TestRuntime.start()) {
            IllegalStateException problem = new IllegalStateException();
            runtime.logger("skerry").warn("trying again", problem);
            runtime.logger("skerry").error("given up", problem);

            assertTrue(runtime.events().stream().allMatch(event -> event.failure() != null));
        }
    }

    @Test
    void aSynchronousFileGoesOnAfterACallerThatWasInterrupted() throws Exception {
        Path file = folder.resolve("log.jsonl");
        try (Graphema graphema =
                Graphema.isolated(settings -> settings.synchronous(true).sink("log", SinkSettings.file(file)))) {
            Thread.currentThread().interrupt();
            graphema.logger("skerry").info("interrupted");
            assertTrue(Thread.interrupted(), "the caller's interrupt is kept");
            graphema.logger("skerry").info("after");
        }

        assertEquals(2, Files.readAllLines(file).size());
    }
}
