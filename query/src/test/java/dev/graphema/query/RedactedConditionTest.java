package dev.graphema.query;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.Condition;
import dev.graphema.event.Draft;
import dev.graphema.event.Event;
import dev.graphema.event.Key;
import dev.graphema.redaction.Redactor;
import dev.graphema.settings.RedactionSettings;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Conditions on redacted values find the events whose original values they name. */
class RedactedConditionTest {
    private static final RedactionSettings SETTINGS = new RedactionSettings(
            List.of("mail", "payment-card"),
            Map.of(),
            Map.of("mail", "pseudonym"),
            Map.of("passenger.name", "pseudonym"),
            Map.of("seat", "pseudonym"),
            "k1",
            "0123456789abcdef");

    private static final Event EVENT = redacted("ada@mail.example", "Ada");
    private static final Event OTHER = redacted("bob@mail.example", "Bob");

    private static Event redacted(String mail, String name) {
        Redactor redactor = SETTINGS.redactor();
        Draft draft = new Draft(redactor)
                .level(dev.graphema.event.Level.INFO)
                .message("written to " + mail)
                .fields(f -> f.put("to", mail)
                        .put("lane", "A3")
                        .put("remark", "answer " + mail + " please")
                        .put(Key.text("seat").sensitive("seat"), name + "1")
                        .group("passenger", g -> g.put("name", name)));
        redactor.redact(draft);
        return draft.finish();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "to = \"ada@mail.example\"",
                "to in (\"cy@mail.example\", \"ada@mail.example\")",
                "passenger.name = Ada",
                "passenger.name = ada and lane = A3",
                "seat = Ada1",
                "message = \"written to ada@mail.example\"",
                "\"ada@mail.example\"",
                "not (to != \"ada@mail.example\")",
            })
    void aPlainValueFindsItsPseudonym(String condition) {
        Condition plain = Condition.parse(condition);
        Condition meant = RedactedCondition.of(plain, SETTINGS);
        assertFalse(EVENT.toString().contains("ada"), EVENT.toString());
        assertTrue(meant.matches(EVENT), meant.toString());
        assertFalse(meant.matches(OTHER), meant.toString());
    }

    @Test
    void whatIsNotHiddenMeansWhatItReports() {
        RedactionSettings fixed = RedactionSettings.USUAL;
        Condition plain = Condition.parse("level >= warn and lane = A3 and wait > 20ms and \"lane free\"");
        assertEquals(plain, RedactedCondition.of(plain, fixed));
        assertEquals(
                "to = \"ada@mail.example\" or to = \"[redacted mail]\"",
                RedactedCondition.of(Condition.parse("to = \"ada@mail.example\""), fixed)
                        .toString());
    }
}
