package dev.graphema.testkit;

import static org.junit.jupiter.api.Assertions.assertEquals;
import static org.junit.jupiter.api.Assertions.assertFalse;
import static org.junit.jupiter.api.Assertions.assertThrows;
import static org.junit.jupiter.api.Assertions.assertTrue;

import dev.graphema.Logger;
import dev.graphema.condition.ConditionException;
import java.util.List;
import java.util.function.Consumer;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class EventCaptureTest {
    private static final String CARD = "4111111111111111";

    private final EventCapture events = EventCapture.isolated();
    private final Logger log = events.logger("skerry.deck");

    @AfterEach
    void end() {
        events.close();
    }

    @Test
    void whatWasEmittedCanBeAskedFor() {
        log.trace("lane taken", f -> f.put("lane", "A3").put("waited_ms", 250));
        log.warn("lane not free");

        events.assertEmitted("level = trace and lane = A3");
        events.assertEmitted(1, "waited_ms > 200ms");
        events.assertNotEmitted("level = error");
        assertEquals(2, events.events().size());
        assertEquals("lane not free", events.events("level = warn").get(0).message());
    }

    @Test
    void whatWasForgottenIsNotAskedAnyMore() {
        log.info("one");
        events.clear();
        log.info("two");

        events.assertNotEmitted("message = one");
        events.assertEmitted(1, "");
    }

    @Test
    void aFailureReportsTheNearestEventAndWhatItDoesNotMeet() {
        log.info("other");
        log.warn("lane not free", f -> f.put("lane", "A3"));
        String message = failure(capture -> capture.assertEmitted("level = warn and lane = B1 and booking exists"));

        assertTrue(
                message.startsWith("no event meets the condition level = warn and lane = B1 and booking exists\n"
                        + "the nearest of 2 events is\n  "),
                message);
        assertTrue(message.contains("lane not free  lane=A3"), message);
        assertTrue(message.endsWith("which does not meet: lane = B1, booking exists"), message);
    }

    @Test
    void aSingleEventIsReportedAsOne() {
        log.info("one");

        assertTrue(failure(capture -> capture.assertEmitted("message = two")).contains("\nthe only event is\n"));
        assertTrue(failure(capture -> capture.assertNotEmitted("message = one")).startsWith("1 event meets "));
    }

    @Test
    void aFailureListsUnexpectedEvents() {
        log.info("one");
        log.info("one");

        assertTrue(failure(capture -> capture.assertEmitted(1, "message = one"))
                .startsWith("expected 1 event that meet the condition message = one, but there are 2:\n"));
        assertTrue(failure(capture -> capture.assertNotEmitted("message = one"))
                .startsWith("2 events meet the condition message = one, but none should:\n"));
        assertTrue(
                failure(capture -> capture.assertEmitted(3, "message = none")).contains("the nearest of 2 events is"));
    }

    @Test
    void whenNothingWasEmittedThatIsReported() {
        assertTrue(failure(capture -> capture.assertEmitted("level = info")).endsWith("no events were emitted"));
    }

    @Test
    void aConditionThatIsNoneIsNoFailedAssertion() {
        assertThrows(ConditionException.class, () -> events.assertEmitted("level = wran"));
    }

    @ParameterizedTest
    @ValueSource(strings = {"message", "field", "name", "number", "real", "nested", "failure", "cause"})
    void aSecretIsFoundWhereverItIsAndNotShown(String place) {
        switch (place) {
            case "message" -> log.info("card " + CARD);
            case "field" -> log.info("m", f -> f.put("x", CARD));
            case "name" -> log.info("m", f -> f.put(CARD, 1));
            case "number" -> log.info("m", f -> f.put("x", Long.parseLong(CARD)));
            case "real" -> log.info("m", f -> f.put("x", Double.parseDouble(CARD)));
            case "nested" -> log.info("m", f -> f.group("g", g -> g.put("list", List.of(List.of(CARD)))));
            case "failure" -> log.error("m", new IllegalStateException(CARD));
            default -> log.error("m", new IllegalStateException("x", new RuntimeException(CARD)));
        }
        String message = failure(EventCapture::assertNothingSensitive);

        assertTrue(message.startsWith("an event of skerry.deck holds a secret of the kind payment-card in "), message);
        assertFalse(message.contains(CARD), message);
    }

    @Test
    void eventsWithoutSecretsPass() {
        log.info("lane taken", f -> f.put("lane", "A3").put("nan", Double.NaN).put("n", 4_111_111_111_111_112L));

        events.assertNothingSensitive();
    }

    private String failure(Consumer<EventCapture> assertion) {
        return assertThrows(AssertionError.class, () -> assertion.accept(events))
                .getMessage();
    }
}
