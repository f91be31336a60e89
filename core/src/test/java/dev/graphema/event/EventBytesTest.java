package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.math.BigDecimal;
import java.nio.ByteBuffer;
import java.time.Duration;
import java.time.Instant;
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

        Event back = EventBytes.read(bytes.write(event));

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
        Event back = EventBytes.read(bytes.write(new Draft().finish()));

        assertNull(back.level());
        assertNull(back.message());
        assertNull(back.id());
        assertEquals(Fields.NONE, back.fields());
    }

    @Test
    void anEventIsMarkedAsARepeatWithoutBeingRead() {
        ByteBuffer written = bytes.write(
                new Draft().message("lane not free").level(Level.INFO).finish());
        Event marked = EventBytes.read(EventBytes.asRepeat(written));
        assertEquals(true, marked.repeat());
        assertEquals("lane not free", marked.message());
        assertEquals(false, EventBytes.read(written).repeat());
    }

    @Test
    void anotherVersionIsToldApart() {
        ByteBuffer written = bytes.write(new Draft().message("a").finish());
        written.put(0, (byte) 9);

        IllegalArgumentException e = assertThrows(IllegalArgumentException.class, () -> EventBytes.read(written));
        assertEquals("an event in version 9 (expected: 1)", e.getMessage());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3, 4, 5})
    void cutOffOrChangedBytesAreRefusedAndNeverHarm(long seed) {
        Event event = new Draft()
                .message("lane not free")
                .failure(Failure.of(new RuntimeException("x")))
                .fields(f -> f.put("lane", "A3").put("list", List.of(1, 2)))
                .finish();
        byte[] good = new byte[bytes.write(event).remaining()];
        bytes.write(event).get(good);
        Random random = new Random(seed);
        for (int i = 0; i < 2_000; i++) {
            byte[] bad = java.util.Arrays.copyOf(good, random.nextInt(good.length) + 1);
            bad[random.nextInt(bad.length)] = (byte) random.nextInt();
            try {
                EventBytes.read(ByteBuffer.wrap(bad));
            } catch (IllegalArgumentException e) {
                // refused, as it may be
            }
        }
    }
}
