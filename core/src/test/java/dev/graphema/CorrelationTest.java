package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Event;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CorrelationTest {
    private static final String TRACE = "4bf92f3577b34da6a3ce929d0e0e4736";
    private static final String SPAN = "00f067aa0ba902b7";

    @Test
    void blanksAroundTheHeaderDoNotCount() {
        try (Scope scope = Correlation.resume(Map.of("traceparent", " \t00-" + TRACE + "-" + SPAN + "-01 ")::get)) {
            assertEquals(TRACE, Correlation.current().trace().toString());
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "00-" + TRACE + "-" + SPAN + "-01",
                "00-" + TRACE + "-" + SPAN + "-00",
                "00-" + TRACE + "-" + SPAN + "-ff",
                "01-" + TRACE + "-" + SPAN + "-01",
                "cc-" + TRACE + "-" + SPAN + "-01-what-the-future-brings",
                "fe-" + TRACE + "-" + SPAN + "-01-"
            })
    void aValidTraceparentIsGoneOnWith(String header) {
        try (Scope scope = Correlation.resume(Map.of("traceparent", header)::get)) {
            Correlation correlation = Correlation.current();

            assertEquals(TRACE, correlation.trace().toString());
            assertEquals(SPAN, correlation.parent().toString());
            assertNotEquals(SPAN, correlation.span().toString());
            assertEquals(
                    "00-" + TRACE + "-" + correlation.span() + "-" + header.substring(53, 55),
                    outgoing().get("traceparent"));
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "00",
                "00-" + TRACE + "-" + SPAN,
                "00-" + TRACE + "-" + SPAN + "-0",
                "00-" + TRACE + "-" + SPAN + "-01-more",
                "00-" + TRACE + "-" + SPAN + "-01 x",
                "ff-" + TRACE + "-" + SPAN + "-01",
                "0x-" + TRACE + "-" + SPAN + "-01",
                "00-" + TRACE + "-" + SPAN + "-0g",
                "00-00000000000000000000000000000000-" + SPAN + "-01",
                "00-" + TRACE + "-0000000000000000-01",
                "00-4BF92F3577B34DA6A3CE929D0E0E4736-" + SPAN + "-01",
                "00-" + TRACE + "-00F067AA0BA902B7-01",
                "00_" + TRACE + "-" + SPAN + "-01",
                "cc-" + TRACE + "-" + SPAN + "-01.future",
                "00-4bf92f3577b34da6a3ce929d0e0e47-" + SPAN + "-01xx"
            })
    void anInvalidOneBeginsANewTrace(String header) {
        try (Scope scope = Correlation.resume(Map.of("traceparent", header)::get)) {
            Correlation correlation = Correlation.current();

            assertNotEquals(TRACE, correlation.trace().toString());
            assertNull(correlation.parent());
        }
    }

    @Test
    void aMissingOneBeginsANewTraceThatIsRandomAndSampled() {
        Set<Object> traces = new HashSet<>();
        for (int i = 0; i < 1_000; i++) {
            try (Scope scope = Correlation.resume(name -> null)) {
                traces.add(Correlation.current().trace());
                assertTrue(outgoing().get("traceparent").endsWith("-03"));
            }
        }
        assertEquals(1_000, traces.size());
    }

    @Test
    void withoutACorrelationNothingIsSent() {
        assertSame(Correlation.NONE, Correlation.current());
        assertEquals(Map.of(), outgoing());
        assertEquals("none", Correlation.NONE.toString());
    }

    @Test
    void eventsCarryTheIdsWhileTheScopeIsOpen() {
        try (TestRuntime runtime = TestRuntime.start()) {
            try (Scope scope = Correlation.begin()) {
                runtime.logger("skerry").info("inside");
                assertEquals(
                        Correlation.current().trace(), runtime.events().get(0).trace());
                assertEquals(
                        Correlation.current().span(), runtime.events().get(0).span());
            }
            runtime.logger("skerry").info("after");

            Event after = runtime.events().get(1);
            assertNull(after.trace());
            assertNull(after.span());
        }
    }

    private static Map<String, String> outgoing() {
        Map<String, String> headers = new HashMap<>();
        Correlation.current().headers(headers::put);
        return headers;
    }
}
