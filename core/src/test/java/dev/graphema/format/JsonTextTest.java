package dev.graphema.format;

import static org.junit.jupiter.api.Assertions.assertEquals;

import dev.graphema.text.Utf8Buffer;
import java.util.Random;
import org.junit.jupiter.api.Test;

class JsonTextTest {
    @Test
    void aRealIsWrittenAsTheJdkWritesIt() {
        Random random = new Random(9);
        for (int i = 0; i < 200_000; i++) {
            double scale = Math.pow(10, random.nextInt(5));
            double value = Math.round(random.nextGaussian() * 1e5 * scale) / scale / Math.pow(10, random.nextInt(6));
            assertEquals(Double.toString(value), written(value));
        }
        for (double value :
                new double[] {0, -0.0, 1, -1, 999_999.999, 1e6, 12.0005, Double.MIN_VALUE, Double.MAX_VALUE}) {
            assertEquals(Double.toString(value), written(value));
        }
        assertEquals("\"NaN\"", written(Double.NaN));
    }

    private static String written(double value) {
        Utf8Buffer buffer = new Utf8Buffer(16);
        JsonText.real(value, buffer);
        return buffer.toString();
    }
}
