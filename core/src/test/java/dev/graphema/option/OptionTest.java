package dev.graphema.option;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;

import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class OptionTest {
    private enum Tide {
        HIGH_WATER,
        LOW_WATER
    }

    static Stream<Arguments> good() {
        return Stream.of(
                Arguments.of(Option.size("x", 1024), "50MB"),
                Arguments.of(Option.size("x", 1024), "1.5KB"),
                Arguments.of(Option.duration("x"), "250ms"),
                Arguments.of(Option.duration("x"), "15m"),
                Arguments.of(Option.duration("x"), "3d"),
                Arguments.of(Option.duration("x"), "1500ns"),
                Arguments.of(Option.count("x", 1, 10), "10"),
                Arguments.of(Option.bool("x"), "true"),
                Arguments.of(Option.word("x", Tide.class), "high-water"),
                Arguments.of(Option.zone("x"), "Europe/Berlin"),
                Arguments.of(Option.path("x", "a path"), "logs/deck.jsonl"),
                Arguments.of(Option.list(Option.count("x", 1, 10)), List.of("1", "2")),
                Arguments.of(Option.names(Option.text("x", "a text")), Map.of("a", "b")));
    }

    @ParameterizedTest
    @MethodSource("good")
    void whatIsReadIsWrittenAsItWas(Option<Object> option, Object written) {
        assertEquals(written, option.write(option.read(written)));
    }

    static Stream<Arguments> bad() {
        return Stream.of(
                Arguments.of(
                        Option.size("rotate.at", 1024),
                        "50",
                        "\"50\" is not a valid at: expected a size such as 50MB, 1KB or more"),
                Arguments.of(
                        Option.size("x", 1024),
                        "0.5KB",
                        "\"0.5KB\" is not a valid x: expected a size such as 50MB, 1KB or more"),
                Arguments.of(
                        Option.duration("wait"),
                        "0s",
                        "\"0s\" is not a valid wait: expected a duration such as 15m or 2s"),
                Arguments.of(
                        Option.count("x", 1, 10),
                        "11",
                        "\"11\" is not a valid x: expected a whole number from 1 to 10"),
                Arguments.of(
                        Option.word("tide", Tide.class),
                        "hihg-water",
                        "\"hihg-water\" is not a valid tide: expected one of high-water, low-water; did you mean high-water?"),
                Arguments.of(
                        Option.text("password", "a password").secret(),
                        " ",
                        "the value of password is not a valid password: expected a password"));
    }

    @ParameterizedTest
    @MethodSource("bad")
    void whatIsNotExpectedIsReportedWithWhatIs(Option<Object> option, Object written, String output) {
        assertEquals(
                output,
                assertThrows(IllegalArgumentException.class, () -> option.read(written))
                        .getMessage());
    }

    @Test
    void optionsHaveDefaultsAndNeverShowTheirValues() {
        Option<Duration> wait = Option.duration("wait").standard(Duration.ofSeconds(1));
        Option<String> password = Option.text("password", "a password").secret();

        assertEquals(Duration.ofSeconds(1), Options.NONE.get(wait));
        Options options = Options.NONE.with(password, "anchor").written(wait, "2s");
        assertEquals(Duration.ofSeconds(2), options.get(wait));
        assertEquals("[password, wait]", options.toString());
        assertEquals("1s", wait.standardText());
        assertEquals("required", password.required().standardText());
    }
}
