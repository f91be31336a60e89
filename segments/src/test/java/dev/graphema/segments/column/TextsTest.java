package dev.graphema.segments.column;

import static org.junit.jupiter.api.Assertions.assertTrue;

import java.nio.charset.StandardCharsets;
import java.util.function.IntFunction;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** Texts that are stored once. */
class TextsTest {
    private static final int TEXTS = 100_000;

    static Stream<Arguments> ids() {
        return Stream.of(
                Arguments.of("trace", (IntFunction<String>) i -> "%032x".formatted(i * 7_919L + 1)),
                Arguments.of("span", (IntFunction<String>) i -> "%016x".formatted(i)),
                Arguments.of("number", (IntFunction<String>) Integer::toString),
                Arguments.of("booking", (IntFunction<String>) i -> "B%07d".formatted(i * 10)));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("ids")
    void idsThatCountUpwardsAreFoundAtOnce(String name, IntFunction<String> id) {
        boolean[] taken = new boolean[4 * TEXTS];
        long steps = 0;
        for (int i = 0; i < TEXTS; i++) {
            byte[] text = id.apply(i).getBytes(StandardCharsets.UTF_8);
            int at = Math.floorMod(Texts.Builder.hash(text, 0, text.length), taken.length);
            while (taken[at]) {
                at = (at + 1) % taken.length;
                steps++;
            }
            taken[at] = true;
        }

        assertTrue(steps < TEXTS, "steps: " + steps);
    }
}
