package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import dev.graphema.settings.Settings;
import dev.graphema.sink.MemorySink;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;

/** A runtime whose events a test can read. */
public final class TestRuntime implements AutoCloseable {
    private final MemorySink sink;
    private final Graphema graphema;

    private TestRuntime(MemorySink sink, Graphema graphema) {
        this.sink = sink;
        this.graphema = graphema;
    }

    public static TestRuntime start() {
        return start(settings -> {});
    }

    public static TestRuntime start(Consumer<Settings.Builder> settings) {
        MemorySink sink = new MemorySink();
        return new TestRuntime(sink, Graphema.isolated(builder -> {
            builder.sink("memory", sink);
            settings.accept(builder);
        }));
    }

    /** One that takes the events of the loggers in static fields. */
    public static TestRuntime shared() {
        return shared(settings -> {});
    }

    public static TestRuntime shared(Consumer<Settings.Builder> settings) {
        MemorySink sink = new MemorySink();
        return new TestRuntime(sink, Graphema.build(builder -> {
            builder.sink("memory", sink);
            settings.accept(builder);
        }));
    }

    Logger logger(String name) {
        return graphema.logger(name);
    }

    public Graphema graphema() {
        return graphema;
    }

    /** Returns the events that were emitted so far. */
    public List<Event> events() {
        assertTrue(graphema.flush(Duration.ofSeconds(30)));
        return sink.events();
    }

    /** What was written so far; all of it once the runtime is closed. */
    List<Event> written() {
        return sink.events();
    }

    public Event single() {
        List<Event> events = events();
        assertEquals(1, events.size(), events.toString());
        return events.get(0);
    }

    @Override
    public void close() {
        graphema.close();
    }
}
