package dev.graphema.settings;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.condition.ConditionException;
import dev.graphema.sink.MemorySink;
import org.junit.jupiter.api.Test;

class SettingsInCodeTest {
    @Test
    void textFormsAreThoseOfTheSettingsFile() {
        Settings settings = Settings.builder()
                .sink("screen", new MemorySink())
                .route("level >= info", "screen")
                .sample("message = heartbeat", "1 in 20")
                .together()
                .sample("level <= debug", "100/s burst 500")
                .redact(r -> r.key("pin", "remove").treat("mail", "remove").pattern("ticket", "TK-\\d+"))
                .build();

        assertEquals("level >= info", settings.routes().get(0).when().toString());
        assertEquals("1 in 20", settings.sampling().get(0).keep().text());
        assertTrue(settings.sampling().get(0).together());
        assertEquals("100/s burst 500", settings.sampling().get(1).keep().text());
        assertEquals("remove", settings.redaction().keys().get("pin"));
        assertEquals("remove", settings.redaction().treatments().get("mail"));
        assertEquals(RedactionSettings.USUAL.detectors(), settings.redaction().detectors());
    }

    @Test
    void wrongTextsAreRejectedAtOnce() {
        Settings.Builder settings = Settings.builder();

        assertThrows(IllegalStateException.class, settings::together);
        assertThrows(ConditionException.class, () -> settings.route("level >>", "screen"));
        assertThrows(IllegalArgumentException.class, () -> settings.sample("level = info", "some"));
        assertThrows(IllegalArgumentException.class, () -> settings.redact(r -> r.treat("mial", "remove")));
        settings.sample("level = info", "100/s");
        assertThrows(IllegalArgumentException.class, settings::together);
    }
}
