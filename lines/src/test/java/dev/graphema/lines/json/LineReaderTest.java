package dev.graphema.lines.json;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class LineReaderTest {
    @Test
    void linesEndWithALineFeedOrTheStream() throws IOException {
        assertEquals(List.of("one", "", "two", "three"), lines("one\n\ntwo\r\nthree"));
        assertEquals(List.of("one"), lines("one\n"));
        assertEquals(List.of(), lines(""));
    }

    @Test
    void whatMayStandAroundALineIsNoPartOfIt() throws IOException {
        assertEquals(List.of("one", "two"), lines("\uFEFFone\n\uFEFFtwo"));
        assertEquals(List.of("{}", "{}", "{}"), lines("  {}\t\n\0\0\0{}\n\uFEFF{} \r\n"));
        assertEquals(List.of("  text "), lines("  text \n"), "in text, blanks may mark a continuation");
    }

    @Test
    void linesAreCounted() throws IOException {
        LineReader reader = new LineReader(stream("a\nb\n\nc"));
        while (reader.next()) {
            // to the end
        }
        assertEquals(4, reader.number());
    }

    @Test
    void aLineBeyondTheLimitIsCutAndTheNextOneIsWhole() throws IOException {
        String endless = "x".repeat(5_000);
        LineReader reader = new LineReader(stream("a\n" + endless + "\nb\n" + endless), 1_000);
        List<String> seen = new ArrayList<>();
        while (reader.next()) {
            seen.add(reader.isTooLong() ? "too long" : line(reader));
        }

        assertEquals(List.of("a", "too long", "b", "too long"), seen);
    }

    @Test
    void blankLinesAreReportedApart() throws IOException {
        LineReader reader = new LineReader(stream(" \t\nx"));
        assertTrue(reader.next() && reader.isBlank());
        assertTrue(reader.next());
        assertFalse(reader.isBlank());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void howTheBytesArriveDoesNotMatter(long seed) throws IOException {
        Random random = new Random(seed);
        List<String> expected = new ArrayList<>();
        for (int i = 0; i < 500; i++) {
            expected.add("é".repeat(random.nextInt(700)));
        }
        InputStream whole = stream(String.join("\n", expected) + "\n");
        InputStream inPieces = new InputStream() {
            @Override
            public int read() throws IOException {
                return whole.read();
            }

            @Override
            public int read(byte[] bytes, int from, int count) throws IOException {
                return whole.read(bytes, from, Math.min(count, 1 + random.nextInt(300)));
            }
        };

        assertEquals(expected, lines(new LineReader(inPieces)), "seed " + seed);
    }

    @ParameterizedTest
    @ValueSource(longs = {4, 5, 6})
    void whatAFilterPassesOverIsCountedAndAllElseSeen(long seed) throws IOException {
        Random random = new Random(seed);
        String begin = "{\"time\":\"2026-05-15T06:31:02.000000001Z\",\"level\":\"info\",\"message\":\"";
        String no = begin + "no\"}";
        List<String> kinds =
                List.of(no, begin + "yes\"}", "no braces", "", "{no end", no + "\r", "{\"other\":\"program\"}");
        List<String> all = new ArrayList<>();
        for (int i = 0; i < 2_000; i++) {
            all.add(kinds.get(random.nextInt(4) == 0 ? random.nextInt(kinds.size()) : 0));
        }
        LineReader reader = new LineReader(stream(String.join("\n", all)));
        LineFilter filter = (bytes, from, to) -> bytes[from + begin.length()] == 'y';
        List<String> seen = new ArrayList<>();
        long passedOver = 0;
        while (reader.next(filter)) {
            passedOver += reader.passedOver();
            seen.add(line(reader));
            assertEquals(seen.size() + passedOver, reader.number(), "seed " + seed);
        }
        passedOver += reader.passedOver();

        assertEquals(all.stream().filter(line -> !line.startsWith(no)).toList(), seen, "seed " + seed);
        assertEquals(all.size() - seen.size(), passedOver, "seed " + seed);
    }

    private static List<String> lines(String text) throws IOException {
        return lines(new LineReader(stream(text)));
    }

    private static List<String> lines(LineReader reader) throws IOException {
        List<String> lines = new ArrayList<>();
        while (reader.next()) {
            lines.add(line(reader));
        }
        return lines;
    }

    private static String line(LineReader reader) {
        return new String(reader.bytes(), reader.start(), reader.end() - reader.start(), StandardCharsets.UTF_8);
    }

    private static InputStream stream(String text) {
        return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
    }
}
