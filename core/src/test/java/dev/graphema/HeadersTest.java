package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;

import java.util.HashMap;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** The rules of W3C Trace Context level 2 for tracestate and of W3C Baggage, case by case. */
class HeadersTest {
    private static final String PARENT = "00-4bf92f3577b34da6a3ce929d0e0e4736-00f067aa0ba902b7-01";

    static Stream<Arguments> states() {
        String longest = "k".repeat(256) + "=" + "v".repeat(256);
        String members32 = IntStream.range(0, 32).mapToObj(i -> "k" + i + "=v").collect(Collectors.joining(","));
        return Stream.of(
                Arguments.of("a=1", "a=1"),
                Arguments.of("a=1,b=2", "a=1,b=2"),
                Arguments.of("a=1 ,\tb=2", "a=1,b=2"),
                Arguments.of("a=1,,b=2,", "a=1,b=2"),
                Arguments.of("0a=1", "0a=1"),
                Arguments.of("tenant@system=1", "tenant@system=1"),
                Arguments.of("a_-*/@=x", "a_-*/@=x"),
                Arguments.of("a=!\"#$%&'()*+-./:;<>?@[\\]^_`{|}~ x", "a=!\"#$%&'()*+-./:;<>?@[\\]^_`{|}~ x"),
                Arguments.of(longest, longest),
                Arguments.of(members32, members32),
                Arguments.of("", null),
                Arguments.of(" , ", null),
                Arguments.of("A=1", null),
                Arguments.of("_a=1", null),
                Arguments.of("a", null),
                Arguments.of("=1", null),
                Arguments.of("a=", null),
                Arguments.of("a=1=2", null),
                Arguments.of("a =1", null),
                Arguments.of("a=é", null),
                Arguments.of("a=1,a=2", null),
                Arguments.of("k".repeat(257) + "=v", null),
                Arguments.of("k=" + "v".repeat(257), null),
                Arguments.of(members32 + ",one=more", null));
    }

    @ParameterizedTest
    @MethodSource("states")
    void aValidTracestateIsPassedOnAndAnInvalidOneDropped(String incoming, String outgoing) {
        assertEquals(
                outgoing,
                passedOn(Map.of("traceparent", PARENT, "tracestate", incoming)).get("tracestate"));
    }

    @Test
    void aTracestateWithoutAValidTraceparentIsDropped() {
        assertNull(passedOn(Map.of("traceparent", "00-x", "tracestate", "a=1")).get("tracestate"));
        assertNull(passedOn(Map.of("tracestate", "a=1")).get("tracestate"));
    }

    static Stream<Arguments> baggages() {
        String members70 = IntStream.range(0, 70).mapToObj(i -> "k" + i + "=v").collect(Collectors.joining(","));
        String members64 = IntStream.range(0, 64).mapToObj(i -> "k" + i + "=v").collect(Collectors.joining(","));
        return Stream.of(
                Arguments.of("booking=B0047113", "booking=B0047113", "{booking=B0047113}"),
                Arguments.of(" a = 1 , b\t=2 ", "a=1,b=2", "{a=1, b=2}"),
                Arguments.of("a=1;property;key=value,b=2", "a=1;property;key=value,b=2", "{a=1, b=2}"),
                Arguments.of("port=Brack%20holm%2C%C3%A9", "port=Brack%20holm%2C%C3%A9", "{port=Brack holm,é}"),
                Arguments.of("a=%zz%4", "a=%zz%4", "{a=%zz%4}"),
                Arguments.of("a=%ff", "a=%ff", "{a=\uFFFD}"),
                Arguments.of("a=", "a=", "{a=}"),
                Arguments.of("a=1=2", "a=1=2", "{a=1=2}"),
                Arguments.of("a=1,a=2", "a=1", "{a=1}"),
                Arguments.of("a!#$%&'*+-.^_`|~9=1", "a!#$%&'*+-.^_`|~9=1", "{a!#$%&'*+-.^_`|~9=1}"),
                Arguments.of("", null, "{}"),
                Arguments.of("novalue", null, "{}"),
                Arguments.of("=1", null, "{}"),
                Arguments.of("a b=1,c=2", "c=2", "{c=2}"),
                Arguments.of("a=b c,c=2", "c=2", "{c=2}"),
                Arguments.of("a=\"x\",c=2", "c=2", "{c=2}"),
                Arguments.of("a=\u001b[31m,c=2", "c=2", "{c=2}"),
                Arguments.of("é=1,c=2", "c=2", "{c=2}"),
                Arguments.of(members70, members64, null),
                Arguments.of("a=1,b=" + "x".repeat(8192) + ",c=2", "a=1", "{a=1}"));
    }

    @ParameterizedTest
    @MethodSource("baggages")
    void baggageIsReadWithinItsLimitsAndPassedOn(String incoming, String outgoing, String fields) {
        try (TestRuntime runtime = TestRuntime.start();
                Scope scope = Correlation.resume(Map.of("traceparent", PARENT, "baggage", incoming)::get)) {
            runtime.logger("skerry").info("inside");

            assertEquals(outgoing, outgoing().get("baggage"));
            if (fields != null) {
                assertEquals(fields, runtime.single().fields().toString());
            } else {
                assertEquals(16, runtime.single().fields().count());
            }
        }
    }

    @Test
    void baggageFromOutsideHidesNothingOfOnesOwn() {
        try (TestRuntime runtime = TestRuntime.start();
                Scope outer = Correlation.resume(Map.of("baggage", "booking=outside,tenant=t1")::get);
                Scope inner = Context.open(f -> f.put("booking", "own"))) {
            runtime.logger("skerry").info("one");
            runtime.logger("skerry").info("two", f -> f.put("tenant", "event"));

            assertEquals(
                    "{booking=own, tenant=t1}", runtime.events().get(0).fields().toString());
            assertEquals(
                    "{tenant=event, booking=own}",
                    runtime.events().get(1).fields().toString());
        }
    }

    @Test
    void theEventOfARequestCarriesWhatCameWithIt() {
        try (TestRuntime runtime = TestRuntime.start()) {
            try (Operation request =
                    runtime.logger("skerry").operation("request", Map.of("baggage", "booking=B1,n=2")::get)) {
                request.put("n", "own");
                request.succeed();
            }
            assertEquals("own", runtime.single().fields().get("n"));
            assertEquals("B1", runtime.single().fields().get("booking"));
        }
    }

    @Test
    void onlyListedFieldsOfTheContextLeaveTheProcess() {
        try (TestRuntime runtime =
                        TestRuntime.shared(settings -> settings.contextOut("booking", "n", "group", "bad name"));
                Scope correlation = Correlation.resume(Map.of("baggage", "other=1,booking=outside")::get);
                Scope scope = Context.open(f -> f.put("booking", "é, \"x\" %")
                        .put("n", 7)
                        .put("secret", "s")
                        .put("bad name", "x")
                        .group("group", g -> g.put("x", 1)))) {
            assertEquals(
                    "other=1,booking=%C3%A9%2C%20%22x%22%20%25,n=7", outgoing().get("baggage"));
        }
    }

    @Test
    void withoutAListNothingLeaves() {
        try (TestRuntime runtime = TestRuntime.shared();
                Scope correlation = Correlation.begin();
                Scope scope = Context.open(f -> f.put("booking", "B0047113"))) {
            assertNull(outgoing().get("baggage"));
            assertNotNull(outgoing().get("traceparent"));
        }
    }

    @Test
    void headersThatCannotBeAskedBeginANewTrace() {
        try (Scope scope = Correlation.resume(name -> {
            throw new IllegalStateException();
        })) {
            assertNotNull(Correlation.current().trace());
            assertNull(Correlation.current().parent());
        }
    }

    private static Map<String, String> passedOn(Map<String, String> incoming) {
        try (Scope scope = Correlation.resume(incoming::get)) {
            return outgoing();
        }
    }

    private static Map<String, String> outgoing() {
        Map<String, String> headers = new HashMap<>();
        Correlation.current().headers(headers::put);
        return headers;
    }
}
