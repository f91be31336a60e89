package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import com.fasterxml.jackson.core.StreamReadFeature;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.json.JsonMapper;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.option.Options;
import dev.graphema.terminal.Paint;
import dev.graphema.text.Utf8Buffer;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.io.IOException;
import java.time.Duration;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Shapes of JSON and choices of columns that are the developer's own. */
class ChosenFormatsTest {
    private static final ObjectMapper JSON = JsonMapper.builder()
            .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
            .build();

    private static final Destination PROGRAM =
            new Destination(false, 0, Paint.NONE, false, Map.of("tenant", event -> "north", "broken", event -> {
                throw new IllegalStateException();
            }));

    private final Event event = new Draft()
            .time(1_778_826_662_123_456_789L)
            .level(Level.WARN)
            .run("8000000000000001")
            .service("deck")
            .instance("deck-2")
            .logger("skerry.deck.Lanes")
            .message("lane \"A3\" not free\n")
            .thread("deck-3")
            .trace(new TraceId(1, 2), new SpanId(3), null)
            .sequence(812)
            .failure(Failure.of(new IllegalStateException("no lane", new RuntimeException("x"))))
            .fields(f -> f.put("lane", "A3")
                    .put("wait_ms", 250)
                    .put("text", "own")
                    .group("passenger", g -> g.put("seats", 2).put("name", "N")))
            .finish();

    @Test
    void keysOrderNestingConstantsAndSeveralTimesAreTheDevelopersChoice() throws IOException {
        Map<String, Object> shape = new LinkedHashMap<>();
        shape.put("at", "time");
        shape.put("millis", "time epoch-millis");
        shape.put("there", "time Asia/Tokyo");
        shape.put("severity", "level number");
        shape.put("LEVEL", "level upper");
        shape.put("sys", "level syslog");
        shape.put("text", "message");
        shape.put("app", new LinkedHashMap<>(Map.of("name", "service", "kind", "constant backend  service")));
        shape.put("home", "environment HOME");
        shape.put("java", "property java.version");
        shape.put("nowhere", "environment NO_SUCH_VARIABLE_HERE");
        shape.put("tenant", "value tenant");
        shape.put("oops", "value broken");
        shape.put("seats", "field passenger.seats");
        shape.put("lane", "field lane");
        shape.put("missing", "field no.such");
        shape.put("inner", new LinkedHashMap<>(Map.of("nothing", "parent")));
        shape.put("*", "fields");
        shape.put("stack", "failure-text");
        shape.put("key", "id");

        String line = written(Formats.JSON, Options.NONE.with(Formats.SHAPE, JsonShape.parse(shape)), PROGRAM);
        JsonNode json = JSON.readTree(line);

        assertEquals("2026-05-15T06:31:02.123456789Z", json.get("at").textValue());
        assertEquals(1_778_826_662_123L, json.get("millis").longValue());
        assertEquals("2026-05-15T15:31:02.123456789+09:00", json.get("there").textValue());
        assertEquals(13, json.get("severity").intValue());
        assertEquals("WARN", json.get("LEVEL").textValue());
        assertEquals(4, json.get("sys").intValue());
        assertEquals("lane \"A3\" not free\n", json.get("text").textValue());
        assertEquals("deck", json.at("/app/name").textValue());
        assertEquals("backend  service", json.at("/app/kind").textValue());
        assertEquals(System.getenv("HOME"), json.path("home").textValue());
        assertEquals(System.getProperty("java.version"), json.get("java").textValue());
        assertEquals("north", json.get("tenant").textValue());
        assertEquals(
                "(failed: java.lang.IllegalStateException)", json.get("oops").textValue());
        assertEquals(2, json.get("seats").intValue());
        assertEquals("A3", json.get("lane").textValue());
        assertEquals("own", json.get("fields.text").textValue(), "a name that is taken gets a prefix");
        assertEquals(250, json.get("wait_ms").intValue());
        assertTrue(json.get("stack").textValue().contains("\nCaused by: java.lang.RuntimeException: x"));
        assertEquals("8000000000000001-812", json.get("key").textValue());
        for (String absent : List.of("nowhere", "missing", "inner", "fields.lane")) {
            assertTrue(!json.has(absent), absent + " in " + line);
        }
        assertTrue(line.indexOf("\"at\"") < line.indexOf("\"stack\""), "in the order of the shape");
    }

    @Test
    void fieldsThatHaveAPlaceAreNotReportedTwice() throws IOException {
        JsonNode json = JSON.readTree(written(
                Formats.JSON,
                Options.NONE.with(Formats.SHAPE, JsonShape.parse(Map.of("l", "field lane", "rest", "fields"))),
                PROGRAM));
        assertEquals("A3", json.get("l").textValue());
        assertEquals(
                "[\"wait_ms\",\"text\",\"passenger\"]",
                JSON.writeValueAsString(json.get("rest").properties().stream()
                        .map(Map.Entry::getKey)
                        .toList()));
    }

    static Stream<Arguments> mistakes() {
        return Stream.of(
                Arguments.of(Map.of("a", "mesage"), "did you mean message?"),
                Arguments.of(Map.of("a", "field"), "at a: expected field and a name"),
                Arguments.of(Map.of("a", "message x"), "at a: expected message alone"),
                Arguments.of(Map.of("a", "level loud"), "expected level alone or with upper, number or syslog"),
                Arguments.of(Map.of("a", "time epoch-milis"), "did you mean epoch-millis?"),
                Arguments.of(Map.of("*", "message"), "expected fields under the name *"),
                Arguments.of(Map.of("a", Map.of("b", "nope")), "at a.b:"),
                Arguments.of(Map.of("a", List.of("message", "nope")), "at a[1]:"),
                Arguments.of(Map.of("a", List.of()), "is an empty list"),
                Arguments.of(Map.of("a", "number seven"), "expected number and a number such as 7 or 2.5"),
                Arguments.of(Map.of("a", "boolean yes"), "expected boolean and true or false"),
                Arguments.of(Map.of("a", "field took in milis"), "did you mean millis?"),
                Arguments.of(Map.of("a", "fields x in millis"), "expected fields, and in seconds"),
                Arguments.of(Map.of(), "the shape is empty"));
    }

    @ParameterizedTest
    @MethodSource("mistakes")
    void aMistakeInAShapeIsReportedWithItsPlace(Map<String, Object> shape, String output) {
        IllegalArgumentException e = assertThrows(IllegalArgumentException.class, () -> JsonShape.parse(shape));
        assertTrue(e.getMessage().contains(output), e.getMessage());
    }

    @Test
    void aValueThatTheProgramDoesNotGiveIsReportedBeforeAnythingIsWritten() {
        Options options = Options.NONE.with(Formats.SHAPE, JsonShape.parse(Map.of("t", "value tennant")));
        assertTrue(assertThrows(IllegalArgumentException.class, () -> Formats.JSON.make(options, PROGRAM))
                .getMessage()
                .contains("did you mean tenant?"));
        assertTrue(assertThrows(IllegalArgumentException.class, () -> Formats.JSON.make(options, Destination.PLAIN))
                .getMessage()
                .contains("Settings.Builder.value"));
    }

    @Test
    void theIdIsReportedWhereAnEventMayComeTwice() throws IOException {
        Destination twice = new Destination(false, 0, Paint.NONE, true, Map.of());
        assertEquals(
                "8000000000000001-812",
                JSON.readTree(written(Formats.JSON, Options.NONE, twice))
                        .get("id")
                        .textValue());
        assertTrue(!written(Formats.JSON, Options.NONE, PROGRAM).contains("\"id\""));
        assertTrue(written(Formats.JSON, Options.NONE.with(Formats.ID, true), PROGRAM)
                .contains("\"id\""));
    }

    @Test
    void columnsAreChosenCutAndHidden() {
        Options options = Options.NONE
                .with(Formats.SHOW, List.of("time", "level", "thread", "field lane", "message", "fields"))
                .with(Formats.WIDTHS, Map.of("thread", 4, "field lane", 3))
                .with(Formats.TIME, ColumnsLayout.Time.DATE_AND_TIME)
                .with(Formats.ZONE, ZoneId.of("+01:00"))
                .with(Formats.HIDE, List.of("passenger"))
                .with(Formats.FRAMES, 0);

        String[] lines = written(Formats.COLUMNS, options, Destination.PLAIN).split("\n");
        assertEquals("2026-05-15 07:31:02.123 WARN  …k-3 A3  lane \"A3\" not free\\n  wait_ms=250 text=own", lines[0]);
        assertEquals("    java.lang.IllegalStateException: no lane", lines[1]);
        assertTrue(lines[2].matches("      … \\d+ more frames"), lines[2]);
    }

    @Test
    void aFieldInAColumnIsShownAsInARow() {
        Event slow = new Draft()
                .fields(f -> f.put("took", Duration.ofMillis(250))
                        .put("note", "not free")
                        .group("passenger", g -> g.put("seats", 2).put("car", true))
                        .put("lanes", List.of("A3", "B1")))
                .finish();
        Options options = Options.NONE.with(
                Formats.SHOW,
                List.of("field took", "field note", "field passenger", "field lanes", "field none", "fields"));
        Utf8Buffer buffer = new Utf8Buffer(64);
        Formats.COLUMNS.make(options, Destination.PLAIN).write(slow, buffer);
        assertEquals(
                "250ms        not free     …=2 car=true [A3, B1]     -",
                buffer.toString().strip());
    }

    @Test
    void constantsHaveTypesListsAreWrittenAndDurationsCanBeNumbers() throws IOException {
        Event slow = new Draft()
                .service("deck")
                .fields(f -> f.put("took", Duration.ofNanos(1_250_000_000))
                        .put("wait", Duration.ofMillis(7))
                        .put("lane", "A3")
                        .group("in", g -> g.put("queue", Duration.ofMinutes(2))))
                .finish();
        Map<String, Object> shape = new LinkedHashMap<>();
        shape.put("version", "number -2.50e1");
        shape.put("test", "boolean false");
        shape.put(
                "tags",
                List.of("constant backend", "service", "instance", List.of("field lane"), Map.of("a", "number 7")));
        shape.put("nothing", List.of("instance"));
        shape.put("took_s", "field took in seconds");
        shape.put("took_us", "field took in micros");
        shape.put("lane", "field lane in millis");
        shape.put("*", "fields in millis");
        Utf8Buffer buffer = new Utf8Buffer(64);
        Formats.JSON
                .make(Options.NONE.with(Formats.SHAPE, JsonShape.parse(shape)), PROGRAM)
                .write(slow, buffer);
        assertEquals(
                "{\"version\":-2.50e1,\"test\":false,\"tags\":[\"backend\",\"deck\",[\"A3\"],{\"a\":7}],\"took_s\":1.25,"
                        + "\"took_us\":1250000,\"lane\":\"A3\",\"wait\":7,\"in\":{\"queue\":120000}}\n",
                buffer.toString());
    }

    @Test
    void coloursCanBeForcedAndForbidden() {
        Destination terminal = new Destination(true, 80, Paint.ANSI, false, Map.of());
        assertTrue(written(Formats.COLUMNS, Options.NONE, terminal).contains("\u001b["));
        assertTrue(!written(Formats.COLUMNS, Options.NONE.with(Formats.COLOUR, Formats.Colour.NEVER), terminal)
                .contains("\u001b"));
        assertTrue(written(Formats.COLUMNS, Options.NONE.with(Formats.COLOUR, Formats.Colour.ALWAYS), Destination.PLAIN)
                .contains("\u001b["));
    }

    @Test
    void linesOfEightyColumnsStayWithinEighty() {
        Destination narrow = new Destination(true, 80, Paint.NONE, false, Map.of());
        written(Formats.COLUMNS, Options.NONE, narrow).lines().forEach(line -> assertTrue(line.length() <= 80, line));
    }

    @Test
    void columnsThatDoNotExistOrFitAreRefused() {
        assertTrue(assertThrows(IllegalArgumentException.class, () -> Formats.SHOW.read(List.of("mesage")))
                .getMessage()
                .contains("did you mean message?"));
        Options width = Options.NONE.with(Formats.WIDTHS, Map.of("thread", 4));
        assertThrows(IllegalArgumentException.class, () -> Formats.COLUMNS.make(width, Destination.PLAIN));
    }

    private String written(FormatKind kind, Options options, Destination destination) {
        Utf8Buffer buffer = new Utf8Buffer(64);
        kind.make(options, destination).write(event, buffer);
        return buffer.toString();
    }
}
