package dev.graphema.event;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNull;

import dev.graphema.text.Decimals;
import dev.graphema.text.Durations;
import dev.graphema.text.Nearest;
import dev.graphema.text.Times;
import dev.graphema.trace.SpanId;
import dev.graphema.trace.TraceId;
import java.math.BigDecimal;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class UnitsTest {
    @ParameterizedTest
    @CsvSource({
        "250ms, PT0.25S",
        "1.5s, PT1.5S",
        "15m, PT15M",
        "2h, PT2H",
        "3d, PT72H",
        "1w, PT168H",
        "12us, PT0.000012S",
        "12µs, PT0.000012S",
        "7ns, PT0.000000007S",
        "0.5MS, PT0.0005S",
        "-2s, PT-2S"
    })
    void durationsAreReadWithTheirUnit(String text, Duration expected) {
        assertEquals(expected, Durations.parse(text));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "5", "ms", "5 ms", "5x", "1.2.3s", "--5s", "5-s", ".s", "99999999999999999999999w"})
    void anythingElseIsNoDuration(String text) {
        assertNull(Durations.parse(text));
    }

    @ParameterizedTest
    @CsvSource({
        "PT0S, 0ns",
        "PT0.000000999S, 999ns",
        "PT0.000012346S, 12.3us",
        "PT0.0023456S, 2.35ms",
        "PT0.25S, 250ms",
        "PT0.9999S, 1s",
        "PT1.5S, 1.5s",
        "PT59.94S, 59.9s",
        "PT2M5S, 2m 5s",
        "PT2M, 2m",
        "PT3H20M, 3h 20m",
        "PT50H, 2d 2h",
        "PT-0.25S, -250ms"
    })
    void durationsAreShownShort(Duration duration, String expected) {
        assertEquals(expected, Durations.text(duration));
    }

    @ParameterizedTest
    @CsvSource({
        "2026-05-15T06:31:02.123456789Z, 2026-05-15T06:31:02.123456789Z",
        "2026-05-15T07:31:02+01:00, 2026-05-15T06:31:02Z",
        "2026-05-15T07:31, 2026-05-15T05:31:00Z",
        "2026-05-15, 2026-05-14T22:00:00Z"
    })
    void timesAreReadWithTheirOffsetOrAsLocalOnes(String text, Instant expected) {
        assertEquals(Times.epochNanos(expected), Times.parse(text, ZoneId.of("Europe/Berlin")));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "yesterday", "2026-13-01", "2026-05-15T25:00Z", "15.05.2026 12", "2026-05-15 07:31"})
    void anythingElseIsNoTime(String text) {
        assertNull(Times.parse(text, ZoneId.of("UTC")));
    }

    @Test
    void instantsBeyondTheRangeBecomeItsEnds() {
        assertEquals(Long.MAX_VALUE, Times.epochNanos(Instant.MAX));
        assertEquals(Long.MIN_VALUE, Times.epochNanos(Instant.MIN));
        assertEquals(Instant.ofEpochSecond(-1, 999_999_999), Times.instant(-1));
    }

    @ParameterizedTest
    @CsvSource({"wran, warn", "eror, error", "inof, info", "debgu, debug", "xyz, ", "e, "})
    void theNearestWordIsFound(String word, String expected) {
        assertEquals(expected, Nearest.to(word, List.of("trace", "debug", "info", "warn", "error", "fatal")));
    }

    @ParameterizedTest
    @ValueSource(strings = {"4bf92f3577b34da6a3ce929d0e0e4736", "00000000000000000000000000000001"})
    void traceIdsAreReadAsTheyAreWritten(String text) {
        assertEquals(text, TraceId.parse(text).toString());
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "00000000000000000000000000000000",
                "4BF92F3577B34DA6A3CE929D0E0E4736",
                "4bf92f3577b34da6a3ce929d0e0e473",
                "4bf92f3577b34da6a3ce929d0e0e473g"
            })
    void anythingElseIsNoTraceId(String text) {
        assertNull(TraceId.parse(text));
    }

    @Test
    void spanIdsAreReadAsTheyAreWritten() {
        assertEquals("00f067aa0ba902b7", SpanId.parse("00f067aa0ba902b7").toString());
        assertNull(SpanId.parse("0000000000000000"));
        assertNull(SpanId.parse("00f067aa0ba902b"));
    }

    @Test
    void decimalsArePlainUnlessThatWouldFillTheMemory() {
        assertEquals("1200", Decimals.text(new BigDecimal("1.2E+3")));
        assertEquals("0.0012", Decimals.text(new BigDecimal("1.2E-3")));
        assertEquals("1.2E+999999999", Decimals.text(new BigDecimal("1.2E+999999999")));
        assertEquals("1E-999999999", Decimals.text(new BigDecimal("1E-999999999")));
    }
}
