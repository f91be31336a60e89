package dev.graphema.redaction;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertSame;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.ArgumentMatchers.anyString;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Failure;
import dev.graphema.event.Level;
import dev.graphema.format.JsonLines;
import dev.graphema.text.Utf8Buffer;
import java.math.BigInteger;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

class RedactorTest {
    private static final String CARD = "4111111111111111";

    private final Redactor redactor = new Redactor(List.of(new PaymentCards()));

    @Test
    void noPartOfAnEventKeepsTheSecret() {
        Exception problem = new IllegalStateException("card " + CARD, new RuntimeException("cause " + CARD));
        problem.addSuppressed(new RuntimeException("suppressed " + CARD));
        Draft draft = new Draft()
                .level(Level.ERROR)
                .logger("skerry.booking")
                .message("charging " + CARD)
                .thread("for " + CARD)
                .failure(Failure.of(problem))
                .fields(f -> f.put("remark", CARD)
                        .put("name " + CARD, 1)
                        .put("number", Long.parseLong(CARD))
                        .put("real", Double.parseDouble(CARD))
                        .put("exact", new BigInteger("6304000000000000000"))
                        .put("list", List.of(List.of(CARD), Map.of("key " + CARD, CARD)))
                        .group("group", g -> g.put("x", CARD)));

        redactor.redact(draft);

        Event event = draft.finish();
        Utf8Buffer line = new Utf8Buffer(256);
        new JsonLines().write(event, line);
        assertFalse(line.toString().contains(CARD), line.toString());
        assertFalse(line.toString().contains("4.111111111111111E15"), line.toString());
        assertFalse(event.toString().contains(CARD));
    }

    @Test
    void aTextWithoutSecretsIsTheSameObject() {
        String text = "lane A3 for booking B0047113";

        assertSame(text, redactor.redact(text));
    }

    @Test
    void aDetectorThatFailsWithholdsTheText() {
        Detector broken = mock(Detector.class);
        when(broken.name()).thenReturn("broken");
        when(broken.trigger()).thenReturn(Trigger.ALWAYS);
        when(broken.find(anyString(), anyInt())).thenThrow(new IllegalStateException());
        Redactor failing = new Redactor(List.of(broken));
        Draft draft = new Draft().message("secret").fields(f -> f.put("lane", "secret"));

        failing.redact(draft);

        Event event = draft.finish();
        assertEquals("[withheld: redaction failed]", event.message());
        assertFalse(event.toString().contains("secret"));
    }

    @Test
    void anUnknownDetectorIsAnsweredWithThoseThatThereAre() {
        assertEquals(
                "no detector is called \"payment-crad\": expected one of payment-card, iban, mail, token, us-ssn, secret, url, private-key, telephone, ip;"
                        + " did you mean payment-card?",
                assertThrows(IllegalArgumentException.class, () -> Detectors.named("payment-crad"))
                        .getMessage());
    }
}
