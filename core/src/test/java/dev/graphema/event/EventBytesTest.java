package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class EventBytesTest {
    private final EventBytes bytes = new EventBytes();

    @Test
    void everyPartOfAnEventComesBack() {
        Failure failure = Failure.of(new IllegalStateException("no lane", new RuntimeException("täken \uD800")));
        Event event = new Draft()
                .time(1_778_826_662_123_456_789L)
                .level(Level.WARN)
                .run("8f00000000000001")
                .service("deck")
                .instance("deck-2")
                .logger("skerry.deck.Lanes")
                .message("lane ⚓ not free")
                .thread("deck-3")
                .trace(new TraceId(1, 2), new SpanId(3), new SpanId(4))
                .sequence(812)
                .weight(20)
                .repeat(true)
                .failure(failure)
                .fields(f -> f.put("lane", "A3")
                        .put("waited", Duration.ofMillis(250))
                        .put("at", Instant.parse("2026-05-15T06:31:02.123456789Z"))
                        .put("fare", new BigDecimal("12345678901234567890.123"))
                        .put("share", 0.1)
                        .put("nan", Double.NaN)
                        .put("count", -7)
                        .put("coach", true)
                        .put("none", (String) null)
                        .put("lanes", List.of("A1", 2, List.of(), Map.of("x", 1)))
                        .group("passenger", g -> g.put("name", "M\u0000x")))
                .finish();

        Event back = EventRecord.event(bytes.write(event).view());

        assertEquals(event.epochNanos(), back.epochNanos());
        assertEquals(event.level(), back.level());
        assertEquals("8f00000000000001-812", back.id());
        assertEquals(event.service(), back.service());
        assertEquals(event.instance(), back.instance());
        assertEquals(event.logger(), back.logger());
        assertEquals(event.message(), back.message());
        assertEquals(event.thread(), back.thread());
        assertEquals(event.trace(), back.trace());
        assertEquals(event.span(), back.span());
        assertEquals(event.parent(), back.parent());
        assertEquals(20, back.weight());
        assertEquals(true, back.repeat());
        assertEquals(event.fields().toString(), back.fields().toString());
        assertEquals(event.fields(), back.fields());
        assertEquals(failure, back.failure());
    }

    @Test
    void anEventWithNextToNothingComesBack() {
        Event back = EventRecord.event(bytes.write(new Draft().finish()).view());

        assertNull(back.level());
        assertNull(back.message());
        assertNull(back.id());
        assertEquals(Fields.NONE, back.fields());
    }

    @Test
    void anEventIsMarkedAsARepeatWithoutBeingRead() {
        byte[] written = new Draft().message("lane not free").level(Level.INFO).toBytes();
        assertEquals(false, EventRecord.of(written).event().repeat());
        EventBytes.markAsRepeat(written, 0);
        Event marked = EventRecord.of(written).event();
        assertEquals(true, marked.repeat());
        assertEquals("lane not free", marked.message());
    }

    @Test
    void textsThatAreThoseOfTheEventBeforeAreWrittenRight() {
        String[] texts = {"deck", "gate", null, "tåken", "booking"};
        Random random = new Random(7);
        for (int i = 0; i < 500; i++) {
            Event event = new Draft()
                    .run(texts[random.nextInt(2)])
                    .service(texts[random.nextInt(texts.length)])
                    .thread(texts[random.nextInt(texts.length)])
                    .logger(texts[random.nextInt(texts.length)])
                    .message(texts[random.nextInt(texts.length)])
                    .finish();
            Event back = EventRecord.event(bytes.write(event).view());
            assertEquals(
                    Arrays.asList(event.run(), event.service(), event.thread(), event.logger(), event.message()),
                    Arrays.asList(back.run(), back.service(), back.thread(), back.logger(), back.message()));
        }
    }

    @Test
    void aTextIsPlainIfItIsTheSameInAJsonString() {
        for (char c = 0; c < 0x180; c++) {
            for (int length = 1; length <= 20; length++) {
                for (int place = 0; place < length; place++) {
                    String text = "b".repeat(place) + c + "]".repeat(length - place - 1);
                    EventRecord record = EventRecord.of(
                            bytes.write(new Draft().message(text).finish()).copy());
                    boolean expected = c >= 0x20 && c < 0x7F && c != '"' && c != '\\';
                    assertEquals(expected, record.isPlain(record.message()), text);
                    assertEquals(text, record.string(record.message()));
                }
            }
        }
    }

    @Test
    void anotherVersionIsReportedApart() {
        byte[] written = new Draft().message("a").toBytes();
        written[0] = 9;

        IllegalArgumentException e = assertThrows(IllegalArgumentException.class, () -> EventRecord.of(written));
        assertEquals("an event in version 9 (expected: 2)", e.getMessage());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void cutOffOrChangedBytesAreRefusedAndNeverHarm(long seed) {
        Event event = new Draft()
                .message("lane not free")
                .failure(Failure.of(new RuntimeException("x")))
                .fields(f -> f.put("lane", "A3").put("list", List.of(1, 2)))
                .finish();
        byte[] good = bytes.write(event).copy();
        Random random = new Random(seed);
        for (int i = 0; i < 2_000; i++) {
            byte[] bad = Arrays.copyOf(good, random.nextInt(good.length) + 1);
            bad[random.nextInt(bad.length)] = (byte) random.nextInt();
            try {
                EventRecord.of(bad).event();
            } catch (IllegalArgumentException e) {
                // refused, as it may be
            }
        }
    }
}
