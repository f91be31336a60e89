package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertNotEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.settings.RedactionSettings;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Treatments, rules by key, and user-defined patterns. */
class RulesTest {
    private static final String KEY = "anchor-anchor-anchor";

    private final Pseudonyms pseudonyms = Pseudonyms.of("k1", KEY);

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            fixed    | ada@mail.example        | [redacted x]
            remove   | ada@mail.example        | [removed]
            mask     | 4111-1111 1111-1111     | ****-**** ****-****
            mask     | ada@mail.example        | ***@****.*******
            last 4   | 4111 1111 1111 1111     | **** **** **** 1111
            last 4   | 1234                    | ****
            last 2   | GB82WEST1234            | **********34
            network  | 203.0.113.7             | 203.0.113.0
            network  | 2001:db8:7:1::9         | 2001:db8:7::
            network  | not an address          | [redacted x]
            """)
    void treatmentsDoWhatTheyAreCalledAndNothingMoreTheSecondTime(String name, String secret, String expected) {
        Treatment treatment = Treatments.parse(name, null);
        String treated = treatment.treat(secret, "x");
        assertEquals(expected, treated);
        if (!name.equals("fixed") && !expected.startsWith("[")) {
            assertEquals(treated, treatment.treat(treated, "x"));
        }
    }

    @Test
    void thePseudonymOfOneIsAlwaysTheSameAndOfTwoNever() {
        String ada = pseudonyms.treat("Ada@mail.example", "mail");
        assertTrue(ada.matches("pseudonym-k1-[a-z]{26}"), ada);
        assertEquals(ada, pseudonyms.treat(" ada@mail.example ", "mail"));
        assertEquals(ada, pseudonyms.treat(ada, "mail"), "a pseudonym has none");
        assertNotEquals(ada, pseudonyms.treat("bob@mail.example", "mail"));
        assertNotEquals(ada, Pseudonyms.of("k1", KEY + "2").treat("ada@mail.example", "mail"));
        assertFalse(pseudonyms.toString().contains("anchor"));
    }

    @Test
    void aKeyThatIsNoneIsRefusedWithoutBeingShown() {
        String output = assertThrows(IllegalArgumentException.class, () -> Pseudonyms.of("k1", "anchor"))
                .getMessage();
        assertEquals("the key has 6 bytes (expected: 16 or more)", output);
        assertThrows(IllegalArgumentException.class, () -> Pseudonyms.of("k 1", KEY));
        assertTrue(assertThrows(IllegalArgumentException.class, () -> Treatments.parse("pseudonym", null))
                .getMessage()
                .startsWith("pseudonym needs a key"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "las 4", "last", "last 0", "last 9", "mask all", "hide"})
    void aTreatmentThatIsNoneIsRefused(String text) {
        assertThrows(IllegalArgumentException.class, () -> Treatments.parse(text, pseudonyms));
    }

    @Test
    void keysMatchAtAnyDepthInAnyCaseWithAnySeparators() {
        Map<String, String> keys = new LinkedHashMap<>();
        keys.put("password", "remove");
        keys.put("passenger.email", "fixed");
        keys.put("api_key", "mask");
        keys.put("*_token", "last 2");
        keys.put("seat", "remove");
        Event event = redacted(
                keys,
                new Draft()
                        .fields(f -> f.put("Password", "p1")
                                .put("lane", "A3")
                                .put("email", "stays")
                                .put("apiKey", "k-1")
                                .put("session-token", "abcdef12")
                                .put("passenger.email", "e1")
                                .group(
                                        "request",
                                        g -> g.put("PASSWORD", 12345)
                                                .group(
                                                        "passenger",
                                                        h -> h.put("E_Mail", "e2")
                                                                .put("name", "N")))
                                .put("seat", List.of("12A", "12B"))
                                .put("list", List.of(Map.of("password", "p3", "x", 1)))
                                .put("api-key", Duration.ofMillis(250))
                                .put("last", true)));
        assertEquals(
                "{lane=A3, email=stays, apiKey=*-*, session-token=******12, passenger.email=[redacted passenger.email],"
                        + " request={passenger={E_Mail=[redacted passenger.email], name=N}}, list=[{x=1}],"
                        + " api-key=***.***, last=true}",
                event.fields().toString());
    }

    @Test
    void allOfAMatchingGroupIsTreated() {
        Event event = redacted(
                Map.of("card", "mask"),
                new Draft()
                        .fields(f -> f.group(
                                        "card", g -> g.put("number", 12345678L).put("owner", List.of("Ada", "Bob")))
                                .put("after", 1)));
        assertEquals(
                "{card={number=********, owner=[***, ***]}, after=1}",
                event.fields().toString());
    }

    @Test
    void ownPatternsRunOnlyWhereTheirTriggerIs() {
        RedactionSettings settings = new RedactionSettings(
                List.of(),
                Map.of("booking", new RedactionSettings.Pattern("\\bB([0-9]{7})\\b", "B00")),
                Map.of("booking", "mask"),
                Map.of(),
                Map.of(),
                null,
                null);
        Redactor redactor = settings.redactor();
        assertEquals("booking B******* and lane A3", redactor.redact("booking B0047113 and lane A3"));
        assertEquals("booking B1234567", redactor.redact("booking B1234567"));
        assertThrows(IllegalArgumentException.class, () -> PatternDetector.of("x", "a*", ""));
        assertThrows(IllegalArgumentException.class, () -> PatternDetector.of("x", "(", ""));
    }

    static IntStream seeds() {
        return IntStream.range(0, 200);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void redactingTwiceChangesNothingMore(int seed) {
        Random random = new Random(seed);
        String[] treatments = {"fixed", "remove", "mask", "last 4", "pseudonym"};
        List<String> all = Detectors.builtIn();
        Map<String, String> treated = new LinkedHashMap<>();
        all.forEach(name -> treated.put(name, treatments[random.nextInt(treatments.length)]));
        treated.put("ip", random.nextBoolean() ? "network" : "fixed");
        Redactor redactor = new RedactionSettings(
                        all,
                        Map.of(),
                        treated,
                        Map.of("note", treatments[random.nextInt(treatments.length)]),
                        Map.of(),
                        "k1",
                        KEY)
                .redactor();
        String[] pieces = {
            "4111 1111 1111 1111",
            "ada@mail.example",
            "password=hunter2",
            "https://ada:pw@host/p?token=abc&x=1",
            "Bearer abcdef123456",
            "203.0.113.7",
            "+44 20 7946 0958",
            "078-05-1120",
            "GB82WEST12345698765432",
            "lane A3",
            "B0047113"
        };
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < 6; i++) {
            text.append(pieces[random.nextInt(pieces.length)]).append(random.nextBoolean() ? " " : ", ");
        }
        String once = redactor.redact(text.toString());
        assertEquals(once, redactor.redact(once), "seed " + seed + ": " + treated + "\n" + text);
        Draft draft = new Draft().fields(f -> f.put("note", text.toString()).put("other", 1));
        redactor.redact(draft);
        String fields = draft.toString();
        redactor.redact(draft);
        assertEquals(fields, draft.toString());
    }

    @Test
    void aTreatmentThatFailsWithholdsTheValue() {
        Treatment broken = (secret, kind) -> {
            throw new IllegalStateException(secret);
        };
        Redactor redactor = new Redactor(
                List.of(new Redactor.Rule(new MailAddresses(), broken)), KeyRules.of(Map.of("note", broken)), Map.of());
        assertEquals("[withheld: redaction failed]", redactor.redact("to ada@mail.example"));
        Draft draft = new Draft().fields(f -> f.put("note", "secret"));
        redactor.redact(draft);
        assertEquals(
                "{note=[withheld: redaction failed]}", draft.finish().fields().toString());
    }

    private static Event redacted(Map<String, String> keys, Draft draft) {
        new RedactionSettings(List.of(), Map.of(), Map.of(), keys, Map.of(), null, null)
                .redactor()
                .redact(draft);
        return draft.finish();
    }
}
