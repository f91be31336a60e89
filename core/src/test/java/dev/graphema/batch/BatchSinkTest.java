package dev.graphema.batch;

import static org.awaitility.Awaitility.await;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertTrue;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.never;
import static org.mockito.Mockito.times;
import static org.mockito.Mockito.verify;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.EventBytes;
import dev.graphema.event.EventRecord;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.option.Options;
import dev.graphema.sink.RefusedException;
import dev.graphema.sink.SinkContext;
import dev.graphema.sink.SinkHealth;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Protocols are tested with their kinds of sinks. */
class BatchSinkTest {
    @TempDir
    Path folder;

    private final SinkHealth health = mock(SinkHealth.class);
    private final List<List<String>> sent = new CopyOnWriteArrayList<>();
    private volatile IOException problem;

    @Test
    void recordsAndEventsAreSentTogetherInOrder() throws IOException {
        BatchSink sink = sink(500, this::send);
        sink.write(record("one"));
        sink.write(event("two"));
        sink.write(record("three"));
        sink.flush();
        sink.flush();
        assertEquals(List.of(List.of("one", "two", "three")), sent);
        sink.close();
    }

    @Test
    void aBatchHasNoMoreEventsThanTheSettingsAllow() throws IOException {
        BatchSink sink = sink(2, this::send);
        for (String each : List.of("one", "two", "three")) {
            sink.write(record(each));
        }
        sink.flush();
        assertEquals(List.of(List.of("one", "two"), List.of("three")), sent);
        sink.close();
    }

    @Test
    void aBatchOfLongEventsIsSentBeforeItIsTooLarge() throws IOException {
        List<Integer> sizes = new ArrayList<>();
        BatchSink sink = sink(100_000, events -> sizes.add(events.size()));
        EventRecord record = record("x".repeat(16_000));
        for (int i = 0; i < 2_500; i++) {
            sink.write(record);
        }
        sink.flush();
        assertEquals(2_500, sizes.stream().mapToInt(each -> each).sum());
        assertEquals(3, sizes.size(), sizes.toString());
        sink.close();
    }

    @Test
    void whatARestartFindsInTheSpoolIsSentFirst() throws IOException {
        problem = new IOException("nobody there");
        BatchSink sink = sink(500, this::send);
        sink.write(record("one"));
        sink.write(record("two"));
        sink.flush();
        sink.close();
        assertTrue(sink.backlog().bytes() > 0);

        problem = null;
        BatchSink next = sink(500, this::send);
        next.write(record("three"));
        next.flush();
        await().until(() -> sent.stream().flatMap(List::stream).count() == 3);
        next.close();
        assertEquals(
                List.of("one", "two", "three"),
                sent.stream().flatMap(List::stream).toList());
    }

    @Test
    void onlyTheEventThatCannotBeSentIsLost() throws IOException {
        BatchSink sink = sink(500, events -> {
            for (int i = 0; i < events.size(); i++) {
                if (events.get(i).level() == Level.ERROR) {
                    throw new OutOfMemoryError("made up");
                }
            }
            send(events);
        });
        sink.write(record("one"));
        sink.write(record(new Draft().level(Level.ERROR).message("bad").finish()));
        sink.write(record("two"));
        sink.flush();
        assertEquals(List.of("one", "two"), sent.stream().flatMap(List::stream).toList());
        verify(health).count(Level.ERROR);
        sink.close();
    }

    @Test
    void ofEventsThatTheReceiverRejectsTheLeastSevereAreCounted() throws IOException {
        BatchSink sink = sink(500, events -> {
            throw new RefusedException("too large", 2);
        });
        for (Level level : List.of(Level.ERROR, Level.DEBUG, Level.WARN)) {
            sink.write(record(new Draft().level(level).message("x").finish()));
        }
        sink.write(record("without a level counts as info"));
        sink.flush();
        verify(health).count(Level.DEBUG);
        verify(health, times(1)).count(Level.INFO);
        verify(health, never()).count(Level.WARN);
        verify(health, never()).count(Level.ERROR);
        sink.close();
    }

    private BatchSink sink(int most, Transmitter transmitter) {
        Options options = Options.NONE.with(BatchSink.BATCH_EVENTS, most);
        SinkContext context =
                new SinkContext("receiver", "deck", "deck-2", new JsonLines(), folder, 100_000_000, health);
        return BatchSink.open(transmitter, options, context);
    }

    private void send(EventBatch events) throws IOException {
        if (problem != null) {
            throw problem;
        }
        List<String> messages = new ArrayList<>();
        for (int i = 0; i < events.size(); i++) {
            messages.add(events.get(i).event().message());
        }
        sent.add(messages);
    }

    private static Event event(String message) {
        return new Draft().message(message).finish();
    }

    private static EventRecord record(String message) {
        return record(event(message));
    }

    private static EventRecord record(Event event) {
        return EventRecord.of(new EventBytes().write(event).copy());
    }
}
