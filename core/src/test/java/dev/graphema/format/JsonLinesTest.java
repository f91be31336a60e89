package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.text.Escapes;
import dev.graphema.text.Times;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class JsonLinesTest {
    private final ObjectMapper reader = new ObjectMapper().enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS);

    @Test
    void theShapeIsTheDocumentedOne() throws Exception {
        Event event = draft().service("deck")
                .instance("deck-2")
                .thread("deck-3")
                .trace(
                        TraceId.parse("4bf92f3577b34da6a3ce929d0e0e4736"),
                        SpanId.parse("00f067aa0ba902b7"),
                        SpanId.parse("b7ad6b7169203331"))
                .sequence(812)
                .weight(20)
                .fields(f -> f.put("lane", "A3")
                        .put("waited", Duration.ofMillis(250))
                        .put("paid", true))
                .finish();

        assertEquals("""
                {"time":"2026-05-15T06:31:02.123456789Z","level":"error","service":"deck","instance":"deck-2",\
                "logger":"skerry.deck.Lanes","message":"lane not free","trace":"4bf92f3577b34da6a3ce929d0e0e4736",\
                "span":"00f067aa0ba902b7","parent":"b7ad6b7169203331","thread":"deck-3","sequence":812,"weight":20,\
                "fields":{"lane":"A3","waited":"PT0.25S","paid":true}}
                """, written(event));
    }

    @Test
    void whatAnEventDoesNotHaveIsLeftOut() {
        assertEquals("""
                {"time":"2026-05-15T06:31:02.123456789Z","level":"error","logger":"skerry.deck.Lanes",\
                "message":"lane not free"}
                """, written(draft().finish()));
    }

    @Test
    void everyKindOfValueKeepsItsType() throws Exception {
        JsonNode fields = reader.readTree(written(draft().fields(f -> f.put("integer", Long.MIN_VALUE)
                                .put("real", 0.1)
                                .put("nan", Double.NaN)
                                .put("infinite", Double.NEGATIVE_INFINITY)
                                .put("decimal", new BigDecimal("12345678901234567890.123"))
                                .put("time", Instant.parse("2026-05-15T06:00:00Z"))
                                .put("nothing", (String) null)
                                .put("list", List.of(1, List.of(), "x"))
                                .group("group", g -> g.put("a", 1).group("empty", h -> {})))
                        .finish()))
                .get("fields");

        assertEquals(Long.MIN_VALUE, fields.get("integer").longValue());
        assertEquals(0.1, fields.get("real").doubleValue());
        assertEquals("NaN", fields.get("nan").textValue());
        assertEquals("-Infinity", fields.get("infinite").textValue());
        assertEquals("12345678901234567890.123", fields.get("decimal").asText());
        assertEquals("2026-05-15T06:00:00.000000000Z", fields.get("time").textValue());
        assertTrue(fields.get("nothing").isNull());
        assertEquals("[1,[],\"x\"]", fields.get("list").toString());
        assertEquals("{\"a\":1,\"empty\":{}}", fields.get("group").toString());
    }

    @Test
    void aFailureIsStructure() throws Exception {
        Exception problem = new IllegalStateException("refused", new java.io.IOException("reset"));
        problem.addSuppressed(new RuntimeException());
        JsonNode line =
                reader.readTree(written(draft().failure(Failure.of(problem)).finish()));
        JsonNode failure = line.get("failure");

        assertEquals(16, line.get("fingerprint").textValue().length());
        assertEquals("java.lang.IllegalStateException", failure.get("type").textValue());
        assertEquals("refused", failure.get("message").textValue());
        assertTrue(failure.get("frames").get(0).textValue().startsWith(JsonLinesTest.class.getName() + ".aFailure"));
        assertEquals("reset", failure.get("cause").get("message").textValue());
        assertTrue(failure.get("cause").get("shared").intValue() > 0);
        assertFalse(failure.get("suppressed").get(0).has("message"));
    }

    @ParameterizedTest
    @ValueSource(longs = {11, 12, 13, 14})
    void anyTextGivesOneValidLineThatSteersNothing(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 500; i++) {
            String name = hostileText(random);
            String value = hostileText(random);
            String line = written(
                    draft().message(value).fields(f -> f.put(name, value)).finish());

            assertEquals(line.length() - 1, line.indexOf('\n'), "one line, seed " + seed);
            assertTrue(line.chars().allMatch(c -> c == '\n' || Escapes.isHarmless(c)), "harmless, seed " + seed);
            JsonNode read = reader.readTree(line);
            assertEquals(withoutHalfPairs(value), read.get("message").textValue(), "seed " + seed);
            assertEquals(
                    withoutHalfPairs(value),
                    read.get("fields").get(withoutHalfPairs(name)).textValue(),
                    "seed " + seed);
        }
    }

    private static String hostileText(Random random) {
        String pieces =
                "a\"\\/\b\f\n\r\t\u0000\u001b[31m\u007f\u0085\u009b\u2028\u202e\u2066\ufeffé€\ud800\udc00😀{}[],:";
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(12); i > 0; i--) {
            text.append(pieces.charAt(random.nextInt(pieces.length())));
        }
        return text.toString();
    }

    /** An unpaired surrogate is not a character, and is replaced by U+FFFD. */
    private static String withoutHalfPairs(String text) {
        StringBuilder whole = new StringBuilder();
        text.codePoints().forEach(c -> whole.appendCodePoint(c >= 0xD800 && c <= 0xDFFF ? 0xFFFD : c));
        return whole.toString();
    }

    private static Draft draft() {
        return new Draft()
                .time(Times.epochNanos(Instant.parse("2026-05-15T06:31:02.123456789Z")))
                .level(Level.ERROR)
                .logger("skerry.deck.Lanes")
                .message("lane not free");
    }

    private static String written(Event event) {
        Utf8Buffer buffer = new Utf8Buffer(16);
        new JsonLines().write(event, buffer);
        return buffer.toString();
    }
}
