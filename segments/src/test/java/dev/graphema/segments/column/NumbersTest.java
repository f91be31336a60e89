package dev.graphema.segments.column;

import static org.junit.jupiter.api.Assertions.assertArrayEquals;
import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class NumbersTest {
    @Test
    void randomNumbersOfAnySizeComeBack() {
        for (long seed = 0; seed < 3_000; seed++) {
            Random random = new Random(seed);
            int shift = random.nextInt(64);
            long factor = random.nextBoolean() ? 1 : random.nextInt(1_000_000) + 1;
            long[] values = random.longs(random.nextInt(400))
                    .map(value -> (value >> shift) * factor)
                    .toArray();
            assertArrayEquals(values, back(values), "seed " + seed);
        }
    }

    @Test
    void extremesComeBack() {
        long[] values = {Long.MIN_VALUE, Long.MAX_VALUE, 0, -1, 1, Long.MIN_VALUE + 1, 3};
        assertArrayEquals(values, back(values));
        assertArrayEquals(new long[0], back(new long[0]));
    }

    @Test
    void numbersInStepsNeedFewBits() {
        long[] millis = new long[1_280];
        Arrays.setAll(millis, i -> 1_795_442_400_000_000_000L + i * 1_000_000L);
        ByteWriter bytes = new ByteWriter(16);
        Numbers.write(millis, millis.length, bytes);
        assertTrue(bytes.length() < 1_280, bytes.length() + " bytes"); // seven bits each
    }

    @Test
    void stepsAreCountedAsTheNumbersAre() {
        for (long seed = 0; seed < 2_000; seed++) {
            Random random = new Random(seed);
            long factor = random.nextBoolean() ? 1 : random.nextInt(1_000) + 1;
            long least = random.nextLong() >> random.nextInt(64);
            int range = 1 + random.nextInt(random.nextBoolean() ? 5 : 20_000);
            long[] values = random.ints(random.nextInt(400), 0, range)
                    .mapToLong(value -> least + value * factor)
                    .toArray();
            PackedNumbers packed = packed(values);
            assertTrue(packed.stepLimit() <= PackedNumbers.MOST_STEPS, "seed " + seed);
            int[] counts = packed.countSteps((int) packed.stepLimit());
            for (int i = 0; i < values.length; i++) {
                assertEquals(values[i], packed.get(i), "seed " + seed);
                counts[(int) packed.step(i)]--;
                assertEquals(values[i], packed.ofStep(packed.step(i)), "seed " + seed);
            }
            assertArrayEquals(new int[counts.length], counts, "seed " + seed);
        }
    }

    @Test
    void numbersThatAreFarApartHaveTooManySteps() {
        for (long[] values :
                new long[][] {{0, 1L << 40, 1}, {Long.MIN_VALUE, Long.MAX_VALUE}, {0, Long.MAX_VALUE, 1}}) {
            assertTrue(packed(values).stepLimit() > PackedNumbers.MOST_STEPS, Arrays.toString(values));
        }
        long[] farBlocks = new long[300];
        Arrays.fill(farBlocks, 128, 256, Long.MAX_VALUE);
        Arrays.fill(farBlocks, 256, 300, Long.MIN_VALUE);
        assertTrue(packed(farBlocks).stepLimit() > PackedNumbers.MOST_STEPS);
    }

    private static PackedNumbers packed(long[] values) {
        ByteWriter bytes = new ByteWriter(16);
        Numbers.write(values, values.length, bytes);
        return PackedNumbers.read(reader(bytes), values.length);
    }

    private static long[] back(long[] values) {
        ByteWriter bytes = new ByteWriter(16);
        Numbers.write(values, values.length, bytes);
        ByteReader reader = reader(bytes);
        long[] back = Numbers.read(reader, values.length);
        assertThrows(IndexOutOfBoundsException.class, reader::getByte, "all bytes are read");
        return back;
    }

    private static ByteReader reader(ByteWriter bytes) {
        return new ByteReader(Arrays.copyOf(bytes.array(), bytes.length() + ByteReader.BEHIND), bytes.length());
    }

    @ParameterizedTest
    @ValueSource(ints = {0, 1, 5, 5_000})
    void textsComeBackOnceEach(int different) {
        Texts.Builder builder = new Texts.Builder();
        int count = different == 0 ? 0 : 20_000;
        for (int i = 0; i < count; i++) {
            byte[] text = ("lane " + i % different).getBytes(StandardCharsets.UTF_8);
            builder.add(text, 0, text.length);
        }
        ByteWriter bytes = new ByteWriter(16);
        builder.writeTo(bytes);
        assertEquals(0, builder.count());
        Texts texts = Texts.read(reader(bytes), count);
        assertEquals(different, texts.different());
        for (int i = 0; i < count; i++) {
            int code = texts.code(i);
            String text = new String(
                    texts.bytes(), texts.from(code), texts.to(code) - texts.from(code), StandardCharsets.UTF_8);
            assertEquals("lane " + i % different, text);
        }
    }
}
