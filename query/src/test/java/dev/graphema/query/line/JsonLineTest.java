package dev.graphema.query.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.event.SpanId;
import dev.graphema.event.TraceId;
import dev.graphema.query.Lines;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class JsonLineTest {
    private final JsonLine reader = new JsonLine();

    @Test
    void everythingThatIsWrittenIsReadAgain() throws Exception {
        Exception problem = new IllegalStateException("refused", new java.io.IOException());
        problem.addSuppressed(new RuntimeException("second"));
        Draft draft = Lines.event(17, "lane \"A3\"\nnot free")
                .level(Level.FATAL)
                .service("deck")
                .instance("deck-2")
                .thread("deck-7")
                .trace(new TraceId(1, 2), new SpanId(3), new SpanId(4))
                .sequence(812)
                .weight(20)
                .failure(Failure.of(problem))
                .fields(f -> f.put("n", 1)
                        .put("r", 0.1)
                        .put("d", new BigDecimal("1234567890123456789012.5"))
                        .put("b", true)
                        .put("t", Instant.parse("2026-05-15T06:00:00Z"))
                        .put("e", Duration.ofMillis(1_500))
                        .put("nothing", (String) null)
                        .put("list", List.of(1, List.of("x"), Map.of("k", 2)))
                        .group("g", g -> g.group("h", h -> h.put("i", "é"))));
        String written = Lines.text(draft.finish());

        assertEquals(written, Lines.text(read(written)));
    }

    @ParameterizedTest
    @ValueSource(longs = {21, 22, 23})
    void anyEventSurvivesWritingAndReading(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 300; i++) {
            String written = Lines.text(
                    Lines.event(i, "m").fields(f -> put(f, random, 3)).finish());
            assertEquals(written, Lines.text(read(written)), "seed " + seed);
        }
    }

    private static void put(FieldWriter f, Random random, int depth) {
        for (int i = random.nextInt(5); i > 0; i--) {
            String name = "n" + random.nextInt(9);
            switch (random.nextInt(depth > 0 ? 7 : 5)) {
                case 0 -> f.put(name, random.nextLong());
                case 1 -> f.put(name, random.nextGaussian() * Math.pow(10, random.nextInt(40) - 20));
                case 2 -> f.put(name, random.nextBoolean());
                case 3 -> f.put(name, Duration.ofNanos(random.nextLong() >> random.nextInt(40)));
                case 4 ->
                    f.put(
                            name,
                            List.of("PT", "PT1S", "PT1.0S", "P1D", "\u0000\"\\").get(random.nextInt(5)));
                case 5 -> f.put(name, List.of(random.nextInt(), List.of(), "x"));
                default -> f.group(name, g -> put(g, random, depth - 1));
            }
        }
    }

    @Test
    void otherNamesAtTheTopAreFields() throws Exception {
        Event event = read("{\"time\":\"2026-05-15T06:00:00Z\",\"status\":503,\"deep\":{\"a\":[1]},\"level\":77}");

        assertEquals("{status=503, deep={a=[1]}, level=77}", event.fields().toString());
        assertNull(event.level());
        assertNull(event.message());
    }

    @Test
    void idsThatAreNoneAreFields() throws Exception {
        Event event = read("{\"time\":\"2026-05-15T06:00:00Z\",\"trace\":\"x\",\"span\":\"0000000000000000\"}");

        assertNull(event.trace());
        assertNull(event.span());
        assertEquals("{trace=x, span=0000000000000000}", event.fields().toString(), "nothing is lost");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
                    not json                                       | not JSON: Unrecognized token 'not': was expecting (JSON String, Number, Array, Object or token 'null', 'true' or 'false')
                    []                                             | expected a JSON object
                    "text"                                         | expected a JSON object
                    {}                                             | expected a "time" such as "2026-05-15T06:31:02.123Z"
                    {"time":5}                                     | "time" is no time such as "2026-05-15T06:31:02.123Z" or 1778826662.123
                    {"time":"noon"}                                | "time" is no time such as "2026-05-15T06:31:02.123Z" or 1778826662.123
                    {"time":"2026-05-15T06:00:00Z"} {}             | expected one JSON object, but there is more behind it
                    """)
    void whatIsNoEventIsRefusedWithTheReason(String line, String reason) {
        UnreadableLineException e = assertThrows(UnreadableLineException.class, () -> read(line));

        assertEquals(reason, e.getMessage());
    }

    @ParameterizedTest
    @ValueSource(strings = {"{\"time\":\"2026-05-15T06:00:00Z\"", "{\"time\":\"2026-05-15T06:0", "{", "{\"a\":\"\\u12"})
    void aTruncatedLineIsRefused(String line) {
        assertThrows(UnreadableLineException.class, () -> read(line));
    }

    @Test
    void aLineMadeToExhaustTheStackIsRefused() {
        String hostile = "{\"time\":\"2026-05-15T06:00:00Z\",\"a\":" + "[".repeat(100_000);

        assertThrows(UnreadableLineException.class, () -> read(hostile));
    }

    private Event read(String line) throws UnreadableLineException {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        return reader.read(bytes, 0, bytes.length);
    }
}
