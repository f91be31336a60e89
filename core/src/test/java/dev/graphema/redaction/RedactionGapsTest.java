package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import java.math.BigDecimal;
import java.util.List;
import java.util.Random;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Forms of secrets that a first version of the detectors did not find, and texts that it altered without need. */
class RedactionGapsTest {
    private static final Redactor ALL =
            new Redactor(Detectors.builtIn().stream().map(Detectors::named).toList());

    static Stream<Arguments> secrets() {
        return Stream.of(
                Arguments.of("sent {\\\"password\\\":\\\"hunter2\\\",\\\"a\\\":1}", "hunter2"),
                Arguments.of("{\\\\\\\"password\\\\\\\":\\\\\\\"hunter2\\\\\\\"}", "hunter2"),
                Arguments.of("dbPassword=hunter2", "hunter2"),
                Arguments.of("PGPASSWORD=hunter2 psql", "hunter2"),
                Arguments.of("MY_SERVICE_API_KEY=hunter2", "hunter2"),
                Arguments.of("csrfToken: hunter2", "hunter2"),
                Arguments.of("Cookie: SESSION=hunter2; theme=dark", "hunter2"),
                Arguments.of("Set-Cookie: SESSION=hunter2; HttpOnly", "hunter2"),
                Arguments.of("Authorization: Token hunter2", "hunter2"),
                Arguments.of("authorization: ApiKey hunter2", "hunter2"),
                Arguments.of("Authorization: Bearer hunter2x", "hunter2x"),
                Arguments.of("<password>hunter2</password>", "hunter2"),
                Arguments.of("<db:password>hunter2</db:password>", "hunter2"),
                Arguments.of("password%3Dhunter2%26a%3D1", "hunter2"),
                Arguments.of("%7B%22password%22%3A%22hunter2%22%7D", "hunter2"),
                Arguments.of("password=\"hun\\\"ter2\" next", "ter2"),
                Arguments.of("password=hunter,2", "2"),
                Arguments.of("password=hunter;2", "2"),
                Arguments.of("secret=hunter&2", "2"),
                Arguments.of("mail=ada%40skerry.example", "ada%40skerry.example"),
                Arguments.of("card 4111\u200b1111\u200b1111\u200b1111", "1111"),
                Arguments.of("card 4111 \u00ad1111-1111-1111", "1111"),
                Arguments.of("call 1-555-010-0199 now", "010"),
                Arguments.of("call 1 (555) 010-0199 now", "010"),
                Arguments.of("call 001 555-010-0199 now", "010"),
                Arguments.of("GB82 WEST 1234 5698 7654 32", "5698"));
    }

    @ParameterizedTest
    @MethodSource("secrets")
    void areFoundWhole(String text, String secret) {
        String redacted = ALL.redact(text);

        assertFalse(redacted.contains(secret), redacted);
        assertEquals(redacted, ALL.redact(redacted), "redacting twice changes nothing more");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "load 0.4111111111111111 of 1",
                "4111111111111111.25 metres",
                "the bearer user_id=12345678 arrived",
                "token count rose; tokens=5",
                "broken=yes"
            })
    void otherTextsStay(String text) {
        assertEquals(text, ALL.redact(text));
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "password=a&user=ada | password=[redacted secret]&user=ada",
                "password=a, user=ada | password=[redacted secret], user=ada",
                "password=a;user=ada | password=[redacted secret];user=ada",
                "Authorization: Token abc | Authorization: Token [redacted secret]",
                "DE89370400440532013000 4111111111111111 | [redacted iban] [redacted payment-card]"
            })
    void whatIsBesideASecretStays(String text, String expected) {
        assertEquals(expected, ALL.redact(text));
    }

    @Test
    void fractionsAreNeverAltered() {
        long seed = System.nanoTime();
        Random random = new Random(seed);
        for (int i = 0; i < 20_000; i++) {
            double number = random.nextDouble() * Math.pow(10, random.nextInt(6));
            String text = "took " + number + " ms";
            assertEquals(text, ALL.redact(text), "seed " + seed);
        }
        BigDecimal decimal = new BigDecimal("4111111111111.111");
        assertEquals(
                decimal,
                redacted(new Draft().fields(f -> f.put("d", decimal))).fields().get("d"));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "password",
                "api_key",
                "apiKey",
                "API-KEY",
                "authorization",
                "cookie",
                "set-cookie",
                "dbPassword",
                "PGPASSWORD",
                "session_id",
                "access_token",
                "client_secret"
            })
    void fieldsWithNamesOfSecretsAreRedactedByDefault(String name) {
        Event event = redacted(new Draft()
                .fields(f -> f.put(name, "hunter2")
                        .group("in", g -> g.put(name, 1234))
                        .put(name + "s", 3)));

        assertEquals("[redacted secret]", event.fields().get(name));
        assertEquals("[redacted secret]", event.fields().get("in." + name));
        assertEquals(3L, event.fields().get(name + "s"));
    }

    @Test
    void anExceptionIsARuleThatKeepsAndABooleanIsNoSecret() {
        Redactor redactor = new Redactor(
                List.of(new Redactor.Rule(new NamedSecrets(), Treatment.FIXED)),
                KeyRules.of(java.util.Map.of("page_token", Treatment.KEEP)),
                java.util.Map.of());
        Draft draft = new Draft()
                .fields(f -> f.put("page_token", "p2").put("token", "t").put("has_password", true));
        redactor.redact(draft);
        Event event = draft.finish();

        assertEquals("p2", event.fields().get("page_token"));
        assertEquals("[redacted secret]", event.fields().get("token"));
        assertEquals(true, event.fields().get("has_password"));
    }

    @Test
    void loggersAndFramesAreRedactedToo() {
        RuntimeException problem = new RuntimeException("failed");
        problem.setStackTrace(
                new StackTraceElement[] {new StackTraceElement("generated", "call", "ada@skerry.example", 1)});
        Event event = redacted(
                new Draft().logger("clients.ada@skerry.example").failure(dev.graphema.event.Failure.of(problem)));

        assertFalse(event.logger().contains("ada@"), event.logger());
        assertFalse(event.failure().frames().toString().contains("ada@"));
    }

    @Test
    void aSecretAcrossThePlaceWhereALongTextIsCutDoesNotLeakInPart() {
        for (int at = 16_360; at < 16_400; at++) {
            String text = "x ".repeat(at / 2) + "4111 1111 1111 1111 " + "y ".repeat(10_000);
            Event event = redacted(new Draft().message(text).fields(f -> f.put("text", text)));

            assertFalse(event.message().contains("4111"), "at " + at);
            assertFalse(event.fields().get("text").toString().contains("4111"), "at " + at);
        }
        String manySecrets = "ada@skerry.example ".repeat(900) + "4111 1111 1111 11";
        String cut = redacted(new Draft().message(manySecrets + "11 " + "z".repeat(50_000)))
                .message();
        assertFalse(cut.contains("4111"), cut.substring(cut.length() - 100));
        assertTrue(cut.endsWith(" characters)"));
    }

    private static Event redacted(Draft draft) {
        ALL.redact(draft);
        return draft.finish();
    }
}
