package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;

import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** All card numbers here are published test numbers. */
class PaymentCardsTest {
    private static final List<String> CARDS = List.of(
            "4111111111111111",
            "4012888888881881",
            "4222222222222",
            "5555555555554444",
            "2223003122003222",
            "378282246310005",
            "6011111111111117",
            "30569309025904",
            "38520000023237",
            "3530111333300000",
            "6304000000000000");

    private final Redactor redactor = new Redactor(List.of(new PaymentCards()));

    @ParameterizedTest
    @ValueSource(
            strings = {
                "4111111111111111",
                "4111 1111 1111 1111",
                "4111-1111-1111-1111",
                "3782 822463 10005",
                "card 5555555555554444.",
                "pay with 4111 1111 1111 1111 please",
                "card4111111111111111x",
                "pan=4012888888881881;cvv",
                "２４ or ４１１１１１１１１１１１１１１１",
                "4111\u00A01111\u00A01111\u00A01111",
                "for 2 passengers 4111 1111 1111 1111 on SK-204",
                "4111111111111111 4012888888881881"
            })
    void cardNumbersAreHidden(String text) {
        String redacted = redactor.redact(text);

        assertEquals(
                0,
                redacted.codePoints().filter(c -> Character.digit(c, 10) == 1).count(),
                redacted);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "",
                "4111111111111112",
                "4111 1111 1111 1112",
                "411111111111",
                "1111111111111117",
                "04111111111111111111110",
                "booking B0047113 for SK-204",
                "2026-05-15T06:31:02.123456789Z",
                "1778826662123456789",
                "1778826662123",
                "4bf92f3577b34da6a3ce929d0e0e4736",
                "550e8400-e29b-41d4-a716-446655440000",
                "10.20.30.40:8080",
                "4111  1111  1111  1111",
                "4111_1111_1111_1111",
                "version 17.0.15.6"
            })
    void everythingElseStays(String text) {
        assertEquals(text, redactor.redact(text));
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    pay 4111 1111 1111 1111 now          | pay [redacted payment-card] now
                    4111111111111111,4222222222222       | [redacted payment-card],[redacted payment-card]
                    12 4111 1111 1111 1111               | 12 [redacted payment-card]
                    4111 1111 1111 1111 12               | [redacted payment-card] 12
                    """)
    void onlyTheNumberIsReplaced(String text, String expected) {
        assertEquals(expected, redactor.redact(text));
    }

    @Test
    void everyPublishedNumberIsFoundInAnyUsualGrouping() {
        for (String card : CARDS) {
            for (String separator : List.of("", " ", "-")) {
                for (int group = 3; group <= 6; group++) {
                    String text = "x " + grouped(card, group, separator) + " y";
                    assertEquals("x [redacted payment-card] y", redactor.redact(text), text);
                }
            }
        }
    }

    @Test
    void oneWrongDigitIsNoCard() {
        Random random = new Random(5);
        for (int i = 0; i < 1_000; i++) {
            String card = CARDS.get(random.nextInt(CARDS.size()));
            int at = random.nextInt(card.length());
            char wrong = (char) ('0' + (card.charAt(at) - '0' + 1 + random.nextInt(9)) % 10);
            String text = card.substring(0, at) + wrong + card.substring(at + 1);
            assertEquals(text, redactor.redact(text));
        }
    }

    @Test
    void redactingTwiceChangesNothingMore() {
        String once = redactor.redact("4111 1111 1111 1111 and 4222222222222");

        assertEquals(once, redactor.redact(once));
    }

    private static String grouped(String digits, int size, String separator) {
        return String.join(separator, digits.split("(?<=\\G.{" + size + "})"));
    }
}
