package dev.graphema.text;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class Utf8BufferTest {
    @ParameterizedTest
    @ValueSource(
            longs = {
                0,
                9,
                10,
                99,
                100,
                12345,
                -1,
                -987654321,
                Long.MAX_VALUE,
                Long.MIN_VALUE,
                1_000_000_000_000_000_000L
            })
    void numbersAreWrittenAsTheJdkWritesThem(long value) {
        assertEquals(Long.toString(value), new Utf8Buffer(1).number(value).toString());
    }

    @Test
    void numbersAroundEachPowerOfTenAreWrittenAsTheJdkWritesThem() {
        for (long power = 1; power > 0 && power <= Long.MAX_VALUE / 10; power *= 10) {
            for (long value = power - 2; value <= power + 2; value++) {
                assertEquals(
                        Long.toString(value), new Utf8Buffer(1).number(value).toString());
            }
        }
    }

    @Test
    void hexadecimalNumbersHaveAllDigits() {
        assertEquals(
                "00f067aa0ba902b7", new Utf8Buffer(1).hex(0x00f067aa0ba902b7L).toString());
        assertEquals("ffffffffffffffff", new Utf8Buffer(1).hex(-1).toString());
    }

    @ParameterizedTest
    @ValueSource(ints = {-3, 0, 1, 2, 3, 7, 1000})
    void aTextIsRepeated(int times) {
        String before = "before ";
        assertEquals(
                before + "█·".repeat(Math.max(0, times)) + "!",
                new Utf8Buffer(1).text(before).repeated("█·", times).ascii('!').toString());
    }

    @Test
    void paddedNumbersHaveAtLeastSoManyDigits() {
        assertEquals(
                "007 1234",
                new Utf8Buffer(1).padded(7, 3).ascii(' ').padded(1234, 3).toString());
    }

    @ParameterizedTest
    @ValueSource(longs = {1, 2, 3})
    void textIsEncodedAsTheJdkEncodesIt(long seed) throws IOException {
        Random random = new Random(seed);
        for (int i = 0; i < 300; i++) {
            StringBuilder text = new StringBuilder();
            for (int n = random.nextInt(20); n > 0; n--) {
                int point = random.nextInt(Character.MAX_CODE_POINT + 1);
                text.appendCodePoint(point >= 0xD800 && point <= 0xDFFF ? 'x' : point);
            }
            ByteArrayOutputStream bytes = new ByteArrayOutputStream();
            new Utf8Buffer(1).text(text.toString()).writeTo(bytes);
            assertArrayEquals(text.toString().getBytes(StandardCharsets.UTF_8), bytes.toByteArray(), "seed " + seed);
        }
    }

    @Test
    void theFirstBytesCanBeDropped() {
        Utf8Buffer buffer = new Utf8Buffer(4).ascii("written rest");
        buffer.dropFirst(8);

        assertEquals("rest", buffer.toString());
        assertEquals(4, buffer.length());
    }

    @Test
    void aDoubleHasTheTextOfTheJdk() {
        double[] values = {
            0,
            -0.0,
            1,
            -1,
            12.5,
            -12.5,
            0.5,
            1.001,
            1.0005,
            99.99,
            999_999.999,
            1e6,
            -1e6,
            1e7,
            1.0 / 3,
            Double.MIN_VALUE,
            Double.MAX_VALUE,
            Double.NaN,
            Double.NEGATIVE_INFINITY
        };
        for (double value : values) {
            assertEquals(Double.toString(value), new Utf8Buffer(8).real(value).toString());
        }
        for (int thousandths = -2_000_000; thousandths <= 2_000_000; thousandths += 37) {
            double value = thousandths / 1_000.0;
            assertEquals(Double.toString(value), new Utf8Buffer(8).real(value).toString());
        }
    }
}
