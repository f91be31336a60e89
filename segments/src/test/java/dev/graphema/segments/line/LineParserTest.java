package dev.graphema.segments.line;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
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
