package dev.graphema.lines.form;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.FieldWriter;
import dev.graphema.event.Level;
import dev.graphema.query.contract.Samples;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
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
        Draft draft = Samples.event(17, "lane \"A3\"\nnot free")
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
        String written = Samples.text(draft.finish());

        assertEquals(written, Samples.text(read(written)));
    }

    @ParameterizedTest
    @ValueSource(longs = {21, 22, 23})
    void anyEventSurvivesWritingAndReading(long seed) throws Exception {
        Random random = new Random(seed);
        for (int i = 0; i < 300; i++) {
            String written = Samples.text(
                    Samples.event(i, "m").fields(f -> put(f, random, 3)).finish());
            assertEquals(written, Samples.text(read(written)), "seed " + seed);
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
    @ValueSource(strings = {"not json", "[]", "\"text\"", "7"})
    void whatIsNoObjectIsNoEvent(String line) {
        UnreadableLineException e = assertThrows(UnreadableLineException.class, () -> read(line));

        assertEquals("expected a JSON object", e.getMessage());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
                    {}                                             | NO_TIME
                    {"time":-5}                                    | INVALID_TIME
                    {"time":"noon"}                                | INVALID_TIME
                    {"time":"9999-12-31T00:00:00Z"}                | INVALID_TIME
                    {"time":"2026-05-15 06:00:00 IST"}             | UNKNOWN_ZONE
                    {"time":"05/06/2026 06:00:00"}                 | DAY_OR_MONTH
                    """)
    void anObjectWithoutATimeIsAnEventInThePlaceOfTheOneBefore(String line, LineDamage damage) throws Exception {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        Event event = reader.read(bytes, 0, bytes.length, 42, false);

        assertFalse(event.hasTime());
        assertEquals(42, event.epochNanos());
        assertEquals(damage, reader.damage());
        assertEquals(line.contains("time"), event.fields().has("time"), "the original is kept");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
                    {"time":"2026-05-15T06:00:00Z","a":1               | {a=1}                | CUT_OFF       |
                    {"time":"2026-05-15T06:00:00Z","a":1,              | {a=1}                | CUT_OFF       |
                    {"time":"2026-05-15T06:00:00Z","a":1,"b            | {a=1}                | CUT_OFF       | 1,"b
                    {"time":"2026-05-15T06:00:00Z","a":1,"b":          | {a=1, b=null}        | CUT_OFF       |
                    {"time":"2026-05-15T06:00:00Z","a":1,"b":[2,       | {a=1, b=[2]}         | CUT_OFF       | 2
                    {"time":"2026-05-15T06:00:00Z","a":1,"b":{"c":2,   | {a=1, b={c=2}}       | CUT_OFF       | 2
                    {"time":"2026-05-15T06:00:00Z","a":1,"b":"half: of | {a=1, b=half: of}    | CUT_OFF       |
                    {"time":"2026-05-15T06:00:00Z","a":1,"b":tru       | {a=1, b=tru}         | CUT_OFF       |
                    {"time":"2026-05-15T06:00:00Z","a":1} {}           | {a=1}                | MORE_BEHIND   | {}
                    {"time":"2026-05-15T06:00:00Z","a":1},"b":2}       | {a=1, b=2}           | MORE_BEHIND   |
                    {"a":1,"time":"2026-05-15T06:00:00Z","b":12x}      | {a=1, b=12x}         | NOT_JSON      | "b":12x}
                    {"a":hello,"time":"2026-05-15T06:00:00Z","b":2}    | {a=hello, b=2}       | NOT_JSON      | "a":hello
                    {"a":,"time":"2026-05-15T06:00:00Z","b":2}         | {a=null, b=2}        | NOT_JSON      | "a":
                    {"a":1;"x":3,"time":"2026-05-15T06:00:00Z","b":2}  | {a=1, b=2}           | NOT_JSON      | "a":1;"x":3
                    {"a":{"x":1,"y":no},"time":"2026-05-15T06:00:00Z"} | {a={x=1}}            | NOT_JSON      | "y":no}
                    {"a":1,"time":"2026-05-15T06:00:00Z","a":2,"a":3}  | {a=[1, 2, 3]}        | REPEATED_NAME |
                    {"a":{"b":1,"b":2},"time":"2026-05-15T06:00:00Z"}  | {a={b=[1, 2]}}       | REPEATED_NAME |
                    """)
    void ofADamagedObjectEverythingIsReadThatCanBe(String line, String fields, LineDamage damage, String rest)
            throws Exception {
        Event event = read(line);

        assertTrue(event.hasTime());
        assertEquals(damage, reader.damage());
        Map<String, Object> read = new TreeMap<>(event.fields().toMap());
        assertEquals(damage.text(), read.remove("line.damage"));
        assertEquals(rest, read.remove("line.rest"));
        assertEquals(fields, read.toString());
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', quoteCharacter = '\'', textBlock = """
                    {"time":"2026-05-15T06:00:00Z","a":"x\\qy"}    | xqy
                    {"time":"2026-05-15T06:00:00Z","a":"x\ty"}     | x	y
                    {"time":"2026-05-15T06:00:00Z","a":007}        | 7
                    {"time":"2026-05-15T06:00:00Z","a":NaN}        | NaN
                    """)
    void whatOtherProgramsWriteBesideTheStandardIsTaken(String line, String value) throws Exception {
        assertEquals(
                value, String.valueOf(read(line.replace("\\t", "\t")).fields().get("a")));
        assertNull(reader.damage());
    }

    @Test
    void bytesThatAreNotUtf8CostNoEvent() throws Exception {
        byte[] bytes =
                "{\"time\":\"2026-05-15T06:00:00Z\",\"a\":\"x?y\",\"b\":2}".getBytes(StandardCharsets.ISO_8859_1);
        bytes[new String(bytes, StandardCharsets.ISO_8859_1).indexOf('?')] = (byte) 0xFF;
        Event event = reader.read(bytes, 0, bytes.length, 0, false);

        assertEquals("x\uFFFDy", event.fields().get("a"));
        assertEquals(2L, event.fields().get("b"));
        assertEquals(LineDamage.NOT_UTF8, reader.damage());
    }

    @Test
    void aLineMadeToExhaustTheStackIsAnEventUpToThere() throws Exception {
        Event event = read("{\"time\":\"2026-05-15T06:00:00Z\",\"a\":1,\"b\":" + "[".repeat(100_000));

        assertEquals(1L, event.fields().get("a"));
    }

    private Event read(String line) throws UnreadableLineException {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        return reader.read(bytes, 0, bytes.length, 0, false);
    }
}
