package skerry;

import static org.junit.jupiter.api.Assertions.assertThrows;

import dev.graphema.testkit.CaptureEvents;
import dev.graphema.testkit.EventCapture;
import org.junit.jupiter.api.Test;

/** Tests assert which events the code emits, by conditions. */
@CaptureEvents
class LanesTest {
    @Test
    void aLaneWithRoomIsTaken(EventCapture events) {
        new Lanes().take(4.5);

        events.assertEmitted("message = \"lane taken\" and lane = A3 and free_m = 8");
        events.assertNotEmitted("level >= warn");
        events.assertNothingSensitive();
    }

    @Test
    void aFailedAssertionShowsTheNearestEvent(EventCapture events) {
        new Lanes().take(18);

        AssertionError failed =
                assertThrows(AssertionError.class, () -> events.assertEmitted("lane = A3 and wanted_m < 18"));
        System.out.println(failed.getMessage());
    }
}
