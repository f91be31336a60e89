package dev.graphema.segments.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LineParserTest {
    private static final String BEGIN = "{\"time\":\"2026-05-15T05:00:03.090632737Z\",\"level\":\"info\"";

    private final LineParser parser = new LineParser();
    private final Shapes shapes = new Shapes();

    private int number(String line) {
        byte[] bytes = line.getBytes(StandardCharsets.UTF_8);
        return parser.parse(bytes, 0, bytes.length) ? shapes.number(parser) : Shapes.NONE;
    }

    @Test
    void aLineIsItsShapeAndItsValues() {
        int number = number(BEGIN
                + ",\"message\":\"a \\\"b\\\"\",\"trace\":\"7299a0039be6dfb360c3f3b8b4faf7cf\",\"held\":true,\"fields\":"
                + "{\"n\":-12,\"d\":1.50,\"deck\":{\"lane\":\"A3\",\"none\":null},\"list\":[1,{\"a\":2}]}}");
        Shape shape = shapes.shapes().get(number);
        assertEquals(
                "{\"time\":\"#\",\"level\":\"#\",\"message\":\"#\",\"trace\":\"#\",\"held\":true,\"fields\":"
                        + "{\"n\":#,\"d\":#,\"deck\":{\"lane\":\"#\",\"none\":null},\"list\":#}}",
                shape.toString());
        assertEquals(
                "[time TIME, level TEXT, message TEXT, trace ID, fields.n INTEGER, fields.d JSON, fields.deck.lane TEXT,"
                        + " fields.list JSON]",
                shapes.columns().toString());
        assertEquals(Map.of("held", "true", "fields\0deck\0none", "null"), shape.constants());
        assertEquals(List.of("fields", "fields\0deck"), shape.groups());
    }

    @Test
    void linesThatDifferInValuesHaveOneShapeAndTheSameNameCanHaveSeveralColumns() {
        int one = number(BEGIN + ",\"fields\":{\"wait\":7}}");
        assertEquals(one, number(BEGIN + ",\"fields\":{\"wait\":70}}"));
        int other = number(BEGIN + ",\"fields\":{\"wait\":\"long\"}}");
        assertTrue(one != other);
        assertEquals(List.of("time TIME", "level TEXT", "fields.wait INTEGER", "fields.wait TEXT"), names());
    }

    @Test
    void aLineLikeAnEarlierOneIsReadAsIfItWereTheFirstOne() {
        List<String> values = List.of(
                "5",
                "-0",
                "1.5",
                "12345678901234567890",
                "true",
                "false",
                "null",
                "{}",
                "{\"x\":1}",
                "{\"type\":\"a.B\"}",
                "[]",
                "[1,{\"a\":2}]",
                "\"\"",
                "\"A3\"",
                "\"a \\\"b\\\"\"",
                "\"4bf92f3577b34da6\"",
                "\"4bf92f3577b34da6a3ce929d0e0e4736\"",
                "\"4bf92f3577b34da6a3ce929d0e0e473\"",
                "\"2026-05-15T05:00:03.090632737Z\"",
                "\"2026-02-30T05:00:03.090632737Z\"",
                "tru",
                "01",
                "\"",
                "");
        Random random = new Random(5);
        int known = 0;
        for (int i = 0; i < 20_000; i++) {
            StringBuilder line = new StringBuilder(BEGIN);
            for (String name : List.of("message", "failure", "trace", "held")) {
                if (random.nextInt(3) > 0) {
                    line.append(",\"%s\":%s".formatted(name, values.get(random.nextInt(values.size() - i % 5))));
                }
            }
            String fields = ",\"fields\":{\"failure\":%s,\"n\":%s}"
                    .formatted(values.get(random.nextInt(20)), values.get(random.nextInt(20)));
            line.append(random.nextInt(4) > 0 ? fields : "").append('}').append(random.nextInt(50) == 0 ? "}" : "");
            assertReadAsFirst(line.toString());
            known += parser.knownShape() >= 0 ? 1 : 0;
        }
        assertTrue(known > 1_000, known + " lines");
    }

    /** Also if it does not begin at the begin of an array. */
    private void assertReadAsFirst(String line) {
        byte[] bytes = ("xy" + line + "z").getBytes(StandardCharsets.UTF_8);
        LineParser first = new LineParser();
        boolean isParsed = first.parse(bytes, 2, bytes.length - 1);
        assertEquals(isParsed, parser.parse(bytes, 2, bytes.length - 1), line);
        int shape = isParsed ? shapes.number(parser) : Shapes.NONE;
        if (shape == Shapes.NONE) {
            return;
        }
        assertEquals(first.values(), parser.values(), line);
        assertEquals(firstShape(first), shapes.shapes().get(shape).toString(), line);
        for (int value = 0; value < first.values(); value++) {
            assertEquals(first.kind(value), parser.kind(value), line);
            assertEquals(first.from(value), parser.from(value), line);
            assertEquals(first.to(value), parser.to(value), line);
            assertTrue(first.kind(value) != Kind.TIME || first.time(value) == parser.time(value), line);
        }
    }

    private static String firstShape(LineParser line) {
        Shapes first = new Shapes();
        return first.shapes().get(first.number(line)).toString();
    }

    private List<String> names() {
        return shapes.columns().stream().map(Column::toString).toList();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "x",
                ",\"n\":01}",
                ",\"n\":-}",
                ",\"n\":1.}",
                ",\"n\":1e}",
                ", \"n\":1}",
                ",\"n\": 1}",
                ",\"n\":tru}",
                ",\"n\":\"a}",
                ",\"n\":\"\\x\"}",
                ",\"n\":\"\\u12g4\"}",
                ",\"n\":[1,]}",
                ",\"n\":{\"a\":1,}}",
                ",\"n\":1}}",
                ",\"n\":1} ",
                ",\"n\":\"a\tb\"}",
                ",\"failure\":[1}"
            })
    void whatIsNotInTheFormOfGraphemaIsLeftAlone(String end) {
        byte[] bytes = (BEGIN + end).getBytes(StandardCharsets.UTF_8);
        assertFalse(parser.parse(bytes, 0, bytes.length), end);
    }

    @ParameterizedTest
    @ValueSource(strings = {"-0", "1234567890123456789", "1.0", "1E+5", "-1.5e-3"})
    void numbersThatAreNotShortAndWholeAreKeptAsTheyAre(String number) {
        assertTrue(number(BEGIN + ",\"fields\":{\"n\":" + number + "}}") != Shapes.NONE);
        assertEquals(Kind.JSON, parser.kind(2));
        assertEquals(number.length(), parser.to(2) - parser.from(2));
    }

    @Test
    void aLineWithARepeatedNameHasNoShape() {
        assertEquals(Shapes.NONE, number(BEGIN + ",\"message\":\"a\",\"message\":\"b\"}"));
        assertEquals(Shapes.NONE, number(BEGIN + ",\"fields\":{\"a\":1,\"a\":true}}"));
    }

    @Test
    void bytesThatAreNotUtf8AreLeftAlone() {
        byte[] bytes = (BEGIN + ",\"message\":\"\u00ff\"}").getBytes(StandardCharsets.ISO_8859_1);
        assertFalse(parser.parse(bytes, 0, bytes.length));
    }

    @Test
    void thereIsAnEndOfShapes() {
        for (int i = 0; i < 6_000; i++) {
            number(BEGIN + ",\"fields\":{\"name-" + i + "\":" + i + "}}");
        }
        assertTrue(shapes.columns().size() <= 5_001, shapes.columns().size() + " columns");
        assertEquals(Shapes.NONE, number(BEGIN + ",\"fields\":{\"another\":1}}"));
    }
}
