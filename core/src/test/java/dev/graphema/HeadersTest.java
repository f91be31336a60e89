package dev.graphema;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotNull;
import static org.junit.jupiter.api.Assertions.assertNull;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Fields;
import dev.graphema.propagation.Baggage;
import dev.graphema.settings.Settings;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
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
                Arguments.of("a=1;b c;d=\"x\";e=f;;g", "a=1;e=f;g", "{a=1}"),
                Arguments.of("a=" + "x".repeat(8190), "a=" + "x".repeat(8190), "{}"),
                Arguments.of("b=1,a=" + "x".repeat(8186), "b=1,a=" + "x".repeat(8186), "{b=1}"),
                Arguments.of("b=1,a=" + "x".repeat(8187), "b=1", "{b=1}"),
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
        Baggage baggage = Baggage.parse(incoming);

        assertEquals(outgoing, baggage.header(Fields.NONE, List.of()));
        if (fields != null) {
            assertEquals(fields, baggage.fields().toString());
        } else {
            assertEquals(16, baggage.fields().count());
        }
    }

    @Test
    void onlyListedNamesAreTakenFromCallers() {
        String incoming = "booking=B1,password=hunter2,tenant=t1";
        assertEquals("{}", takenFromCallers(settings -> {}, incoming));
        assertEquals("{booking=B1}", takenFromCallers(settings -> settings.contextOut("booking"), incoming));
        assertEquals(
                "{tenant=t1}",
                takenFromCallers(settings -> settings.contextOut("booking").contextIn("tenant"), incoming));
        assertEquals(
                "{}", takenFromCallers(settings -> settings.contextIn("booking").trustCallers(false), incoming));
    }

    private static String takenFromCallers(Consumer<Settings.Builder> settings, String baggage) {
        try (TestRuntime runtime = TestRuntime.shared(settings);
                Scope scope = Correlation.resume(Map.of("traceparent", PARENT, "baggage", baggage)::get)) {
            Logger.named("skerry").info("inside");
            String passedOn = String.valueOf(outgoing().get("baggage"));
            String fields = runtime.single().fields().toString();
            assertEquals(fields.equals("{}") ? "null" : fields.substring(1, fields.length() - 1), passedOn);
            return fields;
        }
    }

    @Test
    void aSecretInWhatACallerSendsIsNeitherLoggedNorPassedOn() {
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.contextIn("note"));
                Scope scope = Correlation.resume(Map.of(
                        "traceparent", PARENT,
                        "baggage", "note=ada%40skerry.example",
                        "tracestate", "a=1,b=ada@skerry.example")::get)) {
            Logger.named("skerry").info("inside");

            assertEquals("[redacted mail]", runtime.single().fields().get("note"));
            assertEquals("note=[redacted%20mail]", outgoing().get("baggage"));
            assertEquals("a=1", outgoing().get("tracestate"));
        }
    }

    @Test
    void aCallerThatIsNotTrustedCannotMakeItsEventsVanish() {
        String notSampled = PARENT.substring(0, PARENT.length() - 2) + "00";
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.trustCallers(false));
                Scope scope = Correlation.resume(Map.of("traceparent", notSampled, "tracestate", "a=1")::get)) {
            assertTrue(Correlation.current().sampled());
            assertEquals(PARENT.substring(3, 35), Correlation.current().trace().toString());
            assertNull(outgoing().get("tracestate"));
        }
    }

    @Test
    void traceAndContextAreSentToListedHostsAlone() {
        try (TestRuntime runtime =
                        TestRuntime.shared(settings -> settings.contextHosts("*.skerry.example", "localhost"));
                Scope scope = Correlation.begin()) {
            assertTrue(sentTo("deck.skerry.example"));
            assertTrue(sentTo("LOCALHOST"));
            assertFalse(sentTo("bank.example"));
            assertFalse(sentTo("skerry.example.evil.example"));
            assertFalse(sentTo(null));
        }
    }

    private static boolean sentTo(String host) {
        Map<String, String> headers = new HashMap<>();
        Correlation.current().headers(host, headers::put);
        return headers.containsKey("traceparent");
    }

    @Test
    void anIsolatedRuntimeGoesByItsOwnSettings() {
        try (TestRuntime shared = TestRuntime.shared(settings -> settings.contextOut("tenant"));
                TestRuntime isolated = TestRuntime.start(settings -> settings.contextOut("booking"));
                Operation request =
                        isolated.logger("skerry").operation("request", Map.of("baggage", "booking=B1,tenant=t1")::get);
                Scope scope = Context.open(f -> f.put("tenant", "own").put("booking", "own"))) {
            assertEquals("booking=own", outgoing().get("baggage"));
            try (Scope other = isolated.graphema().resume(Map.of("baggage", "booking=B2,tenant=t2")::get)) {
                assertEquals("booking=B2", outgoing().get("baggage"));
            }
            request.succeed();
        }
    }

    @Test
    void baggageFromOutsideHidesNothingOfOnesOwn() {
        try (TestRuntime runtime = TestRuntime.shared(settings -> settings.contextIn("booking", "tenant"));
                Scope outer = Correlation.resume(Map.of("baggage", "booking=outside,tenant=t1")::get);
                Scope inner = Context.open(f -> f.put("booking", "own"))) {
            Logger.named("skerry").info("one");
            Logger.named("skerry").info("two", f -> f.put("tenant", "event"));

            assertEquals(
                    "{booking=own, tenant=t1}", runtime.events().get(0).fields().toString());
            assertEquals(
                    "{tenant=event, booking=own}",
                    runtime.events().get(1).fields().toString());
        }
    }

    @Test
    void theEventOfARequestCarriesWhatCameWithIt() {
        try (TestRuntime runtime = TestRuntime.start(settings -> settings.contextIn("booking", "n"))) {
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
            assertEquals("booking=%C3%A9%2C%20%22x%22%20%25,n=7", outgoing().get("baggage"));
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
