package dev.graphema.lines.json;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Name;
import dev.graphema.event.Event;
import dev.graphema.lines.RandomJson;
import dev.graphema.lines.form.JsonLine;
import dev.graphema.lines.form.UnreadableLineException;
import dev.graphema.lines.shape.LineShape;
import dev.graphema.query.row.Projection;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The values that are read of a line are those of the complete line; what is unusual is left to the complete reader. */
class ForeignLineTest {
    private static final int LINES = 60_000;
    private static final String TIME = "\"ts\":\"2026-11-23T05:01:02.5Z\"";

    @Test
    void valuesAreThoseOfTheCompleteLine() throws Exception {
        int read = 0;
        for (long seed = 0; seed < LINES; seed++) {
            Random random = new Random(seed);
            String text = RandomJson.line(random);
            if (random.nextBoolean()) {
                text = "{" + TIME + (text.equals("{}") ? "" : ",") + text.substring(1);
            }
            List<Name> names =
                    RandomJson.names(random).stream().map(Name::of).distinct().toList();
            read += isRead(text, names, "seed " + seed) ? 1 : 0;
        }
        assertTrue(read > LINES / 50, "most lines are too unusual for the test: " + read);
    }

    private static boolean isRead(String text, List<Name> names, String what) throws UnreadableLineException {
        Set<String> fields =
                names.stream().map(Name::field).filter(each -> each != null).collect(Collectors.toSet());
        LineShape shape = LineShape.USUAL.asking(fields);
        ForeignLine line = ForeignLine.of(Projection.of(names), shape);
        byte[] bytes = padded(text);
        if (line == null || !line.read(bytes, 0, bytes.length - Long.BYTES)) {
            return false;
        }
        JsonLine complete = new JsonLine(shape);
        Event expected = complete.read(bytes, 0, bytes.length - Long.BYTES, 7, false);
        for (int i = 0; i < names.size(); i++) {
            Object value = names.get(i).value(expected);
            assertEquals(value, line.value(i), names.get(i) + ", " + what + ": " + text);
            assertEquals(value, names.get(i).value(line.values()), names.get(i) + ", " + what + ": " + text);
        }
        assertEquals(expected.epochNanos(), line.time(), what + ": " + text);
        assertEquals(expected.level(), line.event().level(), what + ": " + text);
        assertEquals(expected.weight(), line.weight(), what + ": " + text);
        assertNull(complete.damage(), what + ": " + text);
        return true;
    }

    private static byte[] padded(String text) {
        byte[] bytes = text.getBytes(StandardCharsets.UTF_8);
        return Arrays.copyOf(bytes, bytes.length + Long.BYTES);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "{\"ts\":1795442400.25,\"level\":\"warn\",\"lane\":\"A3\"}",
                "{ \"time\" : \"2026-11-23 05:01:02,5\", \"severity\" : 4, \"lane\" : null }",
                "{\"time\":1795442400250,\"pid\":7,\"level\":30,\"in\":{\"lane\":[{\"a\":1},{\"a\":\"\\u00e9\\n\"}]},\"lane\":12.50}",
                "{\"@timestamp\":\"2026-11-23T05:01:02+01:00\",\"log\":{\"level\":\"error\"},\"lane\":true,\"name\":\"Troms\u00f8\"}",
            })
    void usualLinesAreRead(String text) throws Exception {
        assertTrue(isRead(text, Stream.of("level", "lane").map(Name::of).toList(), "usual"), text);
    }

    @Test
    void aNameOfAnAttributeThatIsAskedIsRead() throws Exception {
        String text = "{\"ts\":1795442400.25,\"severity\":\"WARNING\",\"request\":{\"host\":\"deck-1\",\"size\":7}}";
        List<Name> names = Stream.of("severity", "level", "request.host", "instance", "request.size")
                .map(Name::of)
                .toList();
        assertTrue(isRead(text, names, "asked"), text);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "\"lane\":\"A\",\"lane\":\"B\"", "\"in\":{\"a\":1,\"a\":2}", "\"lane\":\"A3", "\"in\":[1,]", "\"n\":01",
                        "\"n\":1.",
                "\"n\":\"\\u12\"", "\"n\":nul", "\"weight\":2", "\"lane\":{\"a\":1}", "\"lane\":[1]",
                        "\"lane\":\"a\\n\"",
                "\"lane\":12345678901234567890", "\"fields\":{\"lane\":1}", "\"a\\u0062\":1"
            })
    void unusualLinesAreNot(String part) throws Exception {
        assertFalse(isRead("{" + TIME + "," + part + "}", List.of(Name.of("lane")), "unusual"), part);
    }

    @Test
    void linesWithoutAUsualTimeAreNot() throws Exception {
        for (String time :
                List.of("", "\"ts\":5,", "\"ts\":\"yesterday\",", "\"ts\":\"23.11.2026\",", "\"ts\":null,")) {
            assertFalse(isRead("{" + time + "\"lane\":\"A3\"}", List.of(Name.of("lane")), "no time"), time);
        }
        assertNull(ForeignLine.of(Projection.of(List.of(Name.of("trace"))), LineShape.USUAL));
    }

    @Test
    void bytesThatAreNotUtf8AreLeftToTheCompleteReader() {
        byte[][] invalid = {
            {(byte) 0xC0, (byte) 0x80},
            {(byte) 0xE0, (byte) 0x9F, (byte) 0xBF},
            {(byte) 0xED, (byte) 0xA0, (byte) 0x80},
            {(byte) 0xF4, (byte) 0x90, (byte) 0x80, (byte) 0x80},
            {(byte) 0xE2, (byte) 0x82},
            {(byte) 0x80},
            {(byte) 0xFF}
        };
        for (byte[] bytes : invalid) {
            assertFalse(Utf8.isValid(bytes, 0, bytes.length), Arrays.toString(bytes));
        }
        for (String valid :
                List.of("", "Troms\u00f8", "\u20ac\ud83d\ude00 and more than eight", "\ud7ff\ue000\uffff")) {
            byte[] bytes = valid.getBytes(StandardCharsets.UTF_8);
            assertTrue(Utf8.isValid(bytes, 0, bytes.length), valid);
        }
    }
}
